"""A client of the API in the standard library: make a design, read its hours, keep it.

Start the program with `bin/start`, then run this with the address that it prints:
`python3 docs/client.py http://127.0.0.1:8734`
"""

import json
import sys
from typing import Any
from urllib.request import Request, urlopen


def post(address: str, path: str, body: dict[str, Any]) -> Any:
    """Send a JSON document and return the answer."""
    request = Request(
        address + path, json.dumps(body).encode(), {"Content-Type": "application/json"}
    )
    with urlopen(request, timeout=30) as answer:
        return json.load(answer)


def main(address: str) -> None:
    """Size a reading lamp on one battery."""
    design = {
        "format": "gravel-jar/design",
        "version": 11,
        "name": "Reading corner",
        "stores": [{"kind": "bank", "id": "bank", "reserve": 0.1, "battery": {"ah": 100.0}}],
    }
    reading = post(address, "/api/read-load", {"line": "lamp 12 V DC 8 W 4 h", "design": design})
    design["loads"] = [reading["load"]]
    evaluation = post(address, "/api/evaluate", design)
    print(evaluation["verdict"]["lasts"])
    for finding in evaluation["findings"]:
        print(f"{finding['severity']}: {finding['title']}")
    kept = post(address, "/api/designs", {"document": design})
    print(f"kept as {kept['id']}, revision {kept['revision']}")


if __name__ == "__main__":
    main(sys.argv[1])
