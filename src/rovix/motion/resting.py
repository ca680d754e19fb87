"""Words at rest: one plan for as long as they stay as they are."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable

from rovix.motion.clip_plans import Moment
from rovix.motion.layer import LayerState
from rovix.motion.plan import LayerPlan

_PIECES = 200  # beyond which finding out costs as much as planning
_KEPT = 256
_plans: OrderedDict[tuple[object, ...], tuple[LayerState, LayerPlan | None]] = OrderedDict()


def words_at_rest(moment: Moment, plan_of: Callable[[Moment], LayerPlan | None]) -> LayerPlan | None:
    """The plan of words, the very same as long as all that it is made from is the same.

    Who draws it knows then that nothing changed; and copies of what rests are one.
    """
    state = moment.state
    if len(state.subject) > _PIECES or state.windows or state.mixes:
        return plan_of(moment)
    key = _key(moment)
    found = _plans.get(key)
    if found is None:
        # The state is kept too, so that the identities it is known by stay its own.
        found = _plans[key] = state, plan_of(moment)
        if len(_plans) > _KEPT:
            _plans.popitem(last=False)
    return found[1]


def _key(moment: Moment) -> tuple[object, ...]:
    state, scene = moment.state, moment.scene
    numbers = (
        *state.rest.values(), *state.pieces.values(), state.parted, moment.rest, moment.matrices,
        moment.shares, *(() if state.caret is None else (state.caret,)),
        *(() if scene.outward is None else (scene.outward,)),
    )  # fmt: skip
    names = (*state.rest, *state.pieces)
    values = b"".join([array.tobytes() for array in numbers])
    return id(state.subject), id(state.content), scene.size, moment.opacity, names, values
