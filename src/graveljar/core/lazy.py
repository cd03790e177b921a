"""Values worked out when they are first read, once for each object."""

from collections.abc import Callable
from typing import Any, Generic, Self, TypeVar, overload

T = TypeVar("T")


class CachedProperty(Generic[T]):
    """A property that is worked out at the first reading and kept in its object.

    That of the standard library (Python 3.11) holds one lock for all objects of a class while it
    works: requests in several threads would wait for one another. Here two threads that read the
    same object at the same moment may work it out twice, to the same value.
    """

    def __init__(self, work: Callable[[Any], T]) -> None:
        self._work, self._name = work, work.__name__
        self.__doc__ = work.__doc__

    def __set_name__(self, owner: type, name: str) -> None:
        """Know under which name the value is kept."""
        self._name = name

    @overload
    def __get__(self, instance: None, owner: type) -> Self: ...

    @overload
    def __get__(self, instance: object, owner: type) -> T: ...

    def __get__(self, instance: object | None, owner: type) -> Self | T:
        """The value; later readings find it in the object itself."""
        if instance is None:
            return self
        value = self._work(instance)
        # As an attribute it stands before this descriptor; a frozen object takes it only so.
        instance.__dict__[self._name] = value
        return value


cached_property = CachedProperty
