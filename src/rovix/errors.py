"""The one base error. A subclass builds its own sentence: the thing, the reason, the way on."""


class RovixError(Exception):
    """Something is wrong with the work at hand, said in a sentence a user can act on."""
