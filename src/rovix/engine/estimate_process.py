"""The estimate of an export in a process of its own, so that choosing goes on."""

from __future__ import annotations

from dataclasses import dataclass
from multiprocessing.connection import Connection

from rovix.engine.export_job import ExportJob
from rovix.errors import RovixError
from rovix.media.loudness import Loudness
from rovix.processes import Behind, give_way, started


@dataclass(frozen=True, slots=True)
class Estimate:
    """About how many bytes a file will have, and how loud its sound is as it is; None until it is known."""

    size: int
    loudness: Loudness | None = None


class EstimateProcess:
    """Finds how large a job's file will be, and how loud; poll :meth:`found`."""

    def __init__(self, job: ExportJob) -> None:
        self._process, self.connection = started(_estimate, job)
        self._found: Estimate | None = None

    @property
    def is_alive(self) -> bool:
        return self._process.is_alive()

    def found(self) -> Estimate | None:
        """What is known; None until something is, and where the job cannot be done. Never waits."""
        try:
            while self.connection.poll():
                self._found = self.connection.recv()
        except (EOFError, OSError):
            return self._found
        return self._found

    def cancel(self) -> None:
        """Stop; never waits."""
        try:
            self.connection.send("stop")
        except OSError:
            return

    def close(self) -> None:
        """Cancel if it still runs, and wait until it is gone."""
        self.cancel()
        self._process.join(10)
        if self._process.is_alive():
            self._process.kill()
            self._process.join()
        self._process.close()
        self.connection.close()


def _estimate(connection: Connection, job: ExportJob) -> None:
    from rovix.engine.estimate import estimate  # the window's process never loads the encoder
    from rovix.engine.export_sound import loudness_of
    from rovix.media.encoders import encoder_for

    def check(done: int, total: int) -> None:
        if connection.poll():
            raise KeyboardInterrupt

    give_way(Behind.JOBS)
    try:
        size = estimate(job, check)
        connection.send(Estimate(size))
        if encoder_for(job.out, job.how.codec).sound:
            connection.send(Estimate(size, loudness_of(job, lambda: check(0, 0))))
    except (RovixError, KeyboardInterrupt, OSError):
        return  # starting the export says what is wrong
