"""Motion: rest, keys and moves become the plan of a picture, for any times and pieces at once."""

from rovix.motion.describe import describe
from rovix.motion.evaluate import picture_plan
from rovix.motion.layer import LayerMotion, LayerState, layer_motion
from rovix.motion.pace import clip_spans
from rovix.motion.plan import (
    BackgroundPlan,
    EchoPlan,
    ExposurePlan,
    GlyphsPlan,
    GroupPlan,
    ImagePlan,
    LayerPlan,
    MattePlan,
    PicturePlan,
    ShapePlan,
    StepPlan,
    SweepPlan,
    TransitionPlan,
    plan_key,
)
from rovix.motion.scene import Scene, clips_at
from rovix.motion.spans import MoveSpans, move_spans

__all__ = [
    "BackgroundPlan",
    "EchoPlan",
    "ExposurePlan",
    "GlyphsPlan",
    "GroupPlan",
    "ImagePlan",
    "LayerMotion",
    "LayerPlan",
    "LayerState",
    "MattePlan",
    "MoveSpans",
    "PicturePlan",
    "Scene",
    "ShapePlan",
    "StepPlan",
    "SweepPlan",
    "TransitionPlan",
    "clip_spans",
    "clips_at",
    "describe",
    "layer_motion",
    "move_spans",
    "picture_plan",
    "plan_key",
]
