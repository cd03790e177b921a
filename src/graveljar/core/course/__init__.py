"""The course of a run in full: what the Run view draws and lists."""

from graveljar.core.course.course import Course, course_of
from graveljar.core.course.series import Series, series_of

__all__ = ["Course", "Series", "course_of", "series_of"]
