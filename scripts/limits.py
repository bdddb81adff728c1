"""The least, the most and the usual, for the interface: read off the OpenAPI document.

.venv/bin/python scripts/limits.py openapi.json > ui/src/api/limits.ts
"""

import json
import sys
from pathlib import Path
from typing import Any

COUNTED_IN = ("KitchenSetting", "OwnPan", "OwnSheet", "Planning", "SecondOven", "Wish")
"""What is asked for with steppers."""
USUAL_IN = ("ChillBody",)
"""What has usual values that stand in a field from the start."""
HEAD = "/** The least and the most of what is counted, as the API has it; written by `make api`. */"


def ranges(schema: dict[str, Any]) -> dict[str, tuple[int, int]]:
    return {
        name: (field["minimum"], field["maximum"])
        for name, field in sorted(schema["properties"].items())
        if field.get("type") == "integer" and {"minimum", "maximum"} <= field.keys()
    }


def usual(schema: dict[str, Any]) -> dict[str, float]:
    return {
        name: field["default"]
        for name, field in sorted(schema["properties"].items())
        if field.get("type") in ("integer", "number") and field.get("default") is not None
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
    print("\n/** What is taken where nothing is said, as the API has it. */")
    print("export const USUAL = {")
    for name in USUAL_IN:
        figures = (f"{field}: {value:g}" for field, value in usual(schemas[name]).items())
        print(f"  {name}: {{ {', '.join(figures)} }},")
    print("};")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
