"""Full data files as each released version left them: doughs with versions, sessions baked and half
baked, a kitchen with all that it knew, a larder, a book, a cold store. They are never changed; each
version of the tables adds one."""

import gzip
from pathlib import Path

FOLDER = Path(__file__).parent / "store" / "released"
VERSIONS = sorted(file.name.split(".")[0] for file in FOLDER.glob("*.sqlite3.gz"))


def put(version: str, file: Path) -> None:
    """Write the data file of that version."""
    file.write_bytes(gzip.decompress((FOLDER / f"{version}.sqlite3.gz").read_bytes()))
