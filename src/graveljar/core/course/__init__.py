"""The course of a run in full: what the Run view draws and lists."""

from graveljar.core.course.course import Course, course_of
from graveljar.core.course.series import Series, all_series_of, series_of

__all__ = ["Course", "Series", "all_series_of", "course_of", "series_of"]
