"""The least and the most of what is counted, for the interface: read off the OpenAPI document.

.venv/bin/python scripts/limits.py openapi.json > ui/src/api/limits.ts
"""

import json
import sys
from pathlib import Path
from typing import Any

COUNTED_IN = ("KitchenSetting", "OwnPan", "OwnSheet", "Planning", "SecondOven", "Wish")
"""What is asked for with steppers."""
HEAD = "/** The least and the most of what is counted, as the API has it; written by `make api`. */"


def ranges(schema: dict[str, Any]) -> dict[str, tuple[int, int]]:
    return {
        name: (field["minimum"], field["maximum"])
        for name, field in sorted(schema["properties"].items())
        if field.get("type") == "integer" and {"minimum", "maximum"} <= field.keys()
    }


def main(document: Path) -> None:
    schemas = json.loads(document.read_text(encoding="utf-8"))["components"]["schemas"]
    print(HEAD, "export const LIMITS = {", sep="\n")
    for name in COUNTED_IN:
        print(f"  {name}: {{")
        for field, (least, most) in ranges(schemas[name]).items():
            print(f"    {field}: [{least:g}, {most:g}],")
        print("  },")
    print("} satisfies Record<string, Record<string, [number, number]>>;")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
