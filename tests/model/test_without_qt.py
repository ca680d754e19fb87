"""While the core's tests run, nothing in it can import Qt."""

import pytest

from core_tests import import_qt


def test_an_import_of_qt_fails_here():
    with pytest.raises(ModuleNotFoundError, match="blocked"):
        import_qt()
