"""Effects as open JSON files."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.formats.kept_file import Kind
from rovix.model.effect_chain import EffectChain


@dataclass(frozen=True, slots=True)
class SavedEffects:
    """Effects by name."""

    name: str
    chain: EffectChain


EFFECT_FILES: Kind[SavedEffects] = Kind(
    noun="effects", struct=EffectChain, made=SavedEffects, content=lambda saved: (saved.chain, {})
)
