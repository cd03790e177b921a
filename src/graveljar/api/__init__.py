"""The web side: thin routes over the core and the store."""
