"""Compilation of the kernel's functions; the same functions run uncompiled as `f.py_func`.

What is compiled is kept on disk, in a folder for each state of these files: on its own the
compiler would not see that a function called from another file has changed.
"""

from collections.abc import Callable
from hashlib import sha256
from importlib.resources import files
from typing import Any, TypeVar, cast

import numba

F = TypeVar("F", bound=Callable[..., Any])


def _kept_in() -> str:
    here = files("graveljar.core.kernel")
    sources = sorted(
        (file.name, file.read_bytes())
        for file in here.iterdir()
        # What lowers a design is not compiled.
        if file.name.endswith(".py") and not file.name.startswith("lower")
    )
    return f"{here}/__pycache__/{sha256(repr(sources).encode()).hexdigest()[:16]}"


numba.config.CACHE_DIR = _kept_in()  # type: ignore[attr-defined]


def compiled(function: F) -> F:
    """Compile a function at its first call, and keep the result for the next start.

    Parameters
    ----------
    function : Of numbers and arrays only.

    Returns
    -------
    The same, compiled; `py_func` is the original.

    Examples
    --------
    >>> compiled(lambda watts: watts / 12.0)(60.0)
    5.0
    """
    try:
        made = numba.njit(function, cache=True, nogil=True, error_model="numpy")
    except RuntimeError:
        # The folder cannot be written to: compile anew at each start.
        made = numba.njit(function, nogil=True, error_model="numpy")
    return cast("F", made)


def inlined(function: F) -> F:
    """Compile a small function into each of its callers.

    Parameters
    ----------
    function : Of numbers and arrays only.

    Returns
    -------
    The same, for compiled callers.

    Examples
    --------
    >>> inlined(lambda watts: watts / 12.0)(60.0)
    5.0
    """
    return cast("F", numba.njit(function, forceinline=True, nogil=True, error_model="numpy"))
