"""Instruments: small simulated stand-ins that speak SCPI, and the reader for real ones."""
