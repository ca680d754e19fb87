"""Imported before much else is: what imports make stays, so that looking for what may go only takes time.

Whoever imports this turns it on again.
"""

import gc

gc.disable()
