"""How large a file will be before it is written, and the qualities by which that is chosen."""

from itertools import pairwise

import pytest

from builders import project_of, title
from rovix.desktop.dialogs.weight import in_words
from rovix.engine.estimate import STRETCH, STRETCHES, estimate, stretches
from rovix.engine.export import export, folder_of
from rovix.engine.export_job import ExportJob
from rovix.errors import RovixError
from rovix.media.encoders import ENCODERS
from rovix.model.delivery import Delivery
from rovix.motion.ready_moves import ready_moves, rise_and_fade
from rovix.time import Span

SIZE = (192, 108)


def moving(length):
    """Words that come, and go on moving."""
    clip = title("Kite", length, [rise_and_fade(), ready_moves("loop")[0]], text={"size": 60.0})
    return project_of(clip, background="#24405c", size=SIZE, rate="25")


def job_of(kind, folder, length, quality=None):
    out = folder / f"made{kind.suffix}"
    return ExportJob(moving(length), folder, out, Span(0, length), Delivery(None, kind.codec, quality))


def size_of(kind, job):
    if not kind.folder:
        return job.out.stat().st_size
    return sum(file.stat().st_size for file in folder_of(job.out).iterdir())


MOVING = [kind for kind in ENCODERS if not kind.single]


@pytest.mark.parametrize("kind", MOVING, ids=lambda kind: kind.codec)
def test_a_short_job_is_tried_whole_and_known_exactly(kind, tmp_path):
    job = job_of(kind, tmp_path, 12)
    expected = estimate(job)
    assert list(tmp_path.iterdir()) == []
    export(job, 1)
    assert expected == size_of(kind, job)


def test_a_single_picture_is_known_exactly(tmp_path):
    kind = next(kind for kind in ENCODERS if kind.single)
    job = job_of(kind, tmp_path, 1)
    expected = estimate(job)
    export(job, 1)
    assert expected == size_of(kind, job)


@pytest.mark.parametrize("kind", MOVING, ids=lambda kind: kind.codec)
def test_a_long_job_is_known_about(kind, tmp_path):
    job = job_of(kind, tmp_path, 240)
    expected = estimate(job)
    export(job, 1)
    assert expected == pytest.approx(size_of(kind, job), rel=0.35)


@pytest.mark.parametrize("kind", [k for k in ENCODERS if len(k.qualities) > 1], ids=lambda kind: kind.codec)
def test_a_better_quality_is_larger_and_without_a_word_the_good_one_is_taken(kind, tmp_path):
    names = [quality.name for quality in kind.qualities]
    sizes = [estimate(job_of(kind, tmp_path, 12, name)) for name in names]
    assert all(better > worse for better, worse in pairwise(sizes))
    usual = "good" if "good" in names else "best"
    assert estimate(job_of(kind, tmp_path, 12)) == sizes[names.index(usual)]
    with pytest.raises(RovixError, match=f"no quality called splendid; there is {', '.join(names)}"):
        estimate(job_of(kind, tmp_path, 12, "splendid"))


@pytest.mark.parametrize(
    "kind", [k for k in ENCODERS if len(k.qualities) == 1 and not k.single], ids=lambda kind: kind.codec
)
def test_where_nothing_is_to_be_chosen_a_quality_is_refused(kind, tmp_path):
    with pytest.raises(RovixError, match="one quality only"):
        export(job_of(kind, tmp_path, 3, "best"), 1)


def test_the_best_of_jpeg_is_nearest_to_what_was_drawn(tmp_path):
    """The numbers go the right way: checked by what comes out, read by Pillow."""
    import numpy as np
    from PIL import Image

    pictures = {}
    for name in ("best", "small", None):
        kind = next(k for k in ENCODERS if k.codec == ("jpg" if name else "png"))
        job = job_of(kind, tmp_path, 6, name)
        export(job, 1)
        folder = folder_of(job.out)
        picture = Image.open(folder / f"000005{kind.suffix}").convert("RGB")
        pictures[name] = np.asarray(picture, dtype=float)
        folder.rename(tmp_path / f"was-{name}")
    errors = {name: np.abs(pictures[name] - pictures[None]).mean() for name in ("best", "small")}
    assert errors["best"] < errors["small"]


def test_stretches_lie_within_what_is_exported_and_apart():
    for length in (1, STRETCH * STRETCHES, STRETCH * STRETCHES + 1, 5000):
        found = list(stretches(Span(7, 7 + length)))
        assert found[0].start >= 7
        assert found[-1].end <= 7 + length
        assert all(one.end <= other.start for one, other in pairwise(found))


def test_it_stops_when_told(tmp_path):
    def stop(done, total):
        raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        estimate(job_of(ENCODERS[0], tmp_path, 30), stop)


@pytest.mark.parametrize(
    ("count", "said"),
    [(0, "0 bytes"), (999, "999 bytes"), (1000, "1.0 kB"), (9_960, "10 kB"), (2_015_349, "2.0 MB"),
     (999_600, "1.0 MB"), (107_769_546, "108 MB"), (3_400_000_000_000_000, "3400 TB")],
)  # fmt: skip
def test_sizes_in_words(count, said):
    """Units of IEC 80000-13: powers of 1,000."""
    assert in_words(count) == said
