"""Figures from outside, with source and conditions."""
