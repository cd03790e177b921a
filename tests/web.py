"""Requests to a program that a test has started, and the address that it prints."""

import re
from functools import partial
from ssl import PROTOCOL_TLS_CLIENT, SSLContext
from typing import IO, Final

import httpx2 as httpx

# A busy machine may take its time.
PATIENCE_S: Final = 30.0
# Nothing here is encrypted: reading all certificates for each request would be most of its time.
PLAIN: Final = SSLContext(PROTOCOL_TLS_CLIENT)
get: Final = partial(httpx.get, timeout=PATIENCE_S, verify=PLAIN)
post: Final = partial(httpx.post, timeout=PATIENCE_S, verify=PLAIN)
put: Final = partial(httpx.put, timeout=PATIENCE_S, verify=PLAIN)
delete: Final = partial(httpx.delete, timeout=PATIENCE_S, verify=PLAIN)


def printed(output: IO[str] | None) -> tuple[str, str]:
    """The line with the address, and the address; the last line and "" where it ends without.

    Other lines may come first: that a backup is kept before the tables change.
    """
    assert output is not None
    last = ""
    for line in output:
        last = line
        if found := re.search(r"http://127\.0\.0\.1:\d+/", line):
            return line, found[0]
    return last, ""
