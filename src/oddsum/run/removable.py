"""Things that are taken away at the end of their ``with``."""

from __future__ import annotations

from types import TracebackType
from typing import Self


class Removable:
    """Something that is taken away at the end of its ``with``."""

    def remove(self) -> None:
        """Take it away."""
        raise NotImplementedError

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self.remove()
