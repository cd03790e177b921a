"""Compilation of the kernel's functions; the same functions run uncompiled as `f.py_func`.

What is compiled is kept on disk, in a folder for each state of these files: on its own the
compiler would not see that a function called from another file has changed.
"""

import sys
from collections.abc import Callable
from hashlib import sha256
from importlib import import_module
from importlib.resources import files
from typing import Any, Final, TypeVar, cast

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


def _without_linear_algebra() -> None:
    """Load what the compiler knows of arrays, but for SciPy's linear algebra.

    No function here uses it, and loading it would be a quarter of what each process begins with.
    """
    known = sys.modules.get("scipy.linalg")
    if known is None and "numba.np.arraymath" not in sys.modules:
        # To the compiler it is not installed.
        sys.modules["scipy.linalg"] = None  # type: ignore[assignment]
        import_module("numba.np.arraymath")
        del sys.modules["scipy.linalg"]


_without_linear_algebra()
numba.config.CACHE_DIR = _kept_in()  # type: ignore[attr-defined]
# Rails and loads are few: loops over eight of them gain nothing from vectors, and take longer to
# compile.
numba.config.LOOP_VECTORIZE = 0  # type: ignore[attr-defined]
numba.config.SLP_VECTORIZE = 0  # type: ignore[attr-defined]

# Without counting who holds an array: the caller does, as long as a call lasts. Counting took most
# of the time of a run (decision 0030).
_UNCOUNTED: Final[dict[str, Any]] = {"nogil": True, "error_model": "numpy", "_nrt": False}
_COUNTED: Final[dict[str, Any]] = {"nogil": True, "error_model": "numpy"}


def compiled(function: F) -> F:
    """Compile a function that makes no arrays at its first call; keep it for the next start.

    Parameters
    ----------
    function : Of numbers and arrays only; it makes and gives no array.

    Returns
    -------
    The same, compiled; `py_func` is the original.

    Examples
    --------
    >>> compiled(lambda watts: watts / 12.0)(60.0)
    5.0
    """
    return _kept(function, _UNCOUNTED)


def compiled_with_arrays(function: F) -> F:
    """Compile a function that makes arrays, as `compiled`.

    Parameters
    ----------
    function : Of numbers and arrays only.

    Returns
    -------
    The same, compiled; `py_func` is the original.

    Examples
    --------
    >>> import numpy as np
    >>> compiled_with_arrays(lambda count: np.ones(count))(2)
    array([1., 1.])
    """
    return _kept(function, _COUNTED)


def _kept(function: F, options: dict[str, Any]) -> F:
    try:
        made = numba.njit(function, cache=True, **options)
    except RuntimeError:
        # The folder cannot be written to: compile anew at each start.
        made = numba.njit(function, **options)
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
    # Kept as well, for those that are called from Python too: they were compiled at each start.
    return _kept(function, _UNCOUNTED | {"forceinline": True})


def merged(function: F) -> F:
    """Compile a function as a part of what calls it: a caller or two, or a few lines.

    Each function that is compiled by itself holds all that it calls, compiled once more: what is
    merged is left out of that.

    Parameters
    ----------
    function : Of numbers and arrays only.

    Returns
    -------
    The same, for compiled callers.

    Examples
    --------
    >>> merged(lambda watts: watts / 12.0)(60.0)
    5.0
    """
    return cast("F", numba.njit(function, inline="always", **_UNCOUNTED))
