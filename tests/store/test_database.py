import json
import os
import signal
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext
from sqlalchemy import create_engine, text
from sqlalchemy.exc import IntegrityError

from finebatch.core.formula.dough import Card, Line
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.kinds.sliced import Sliced
from finebatch.store.database import Database, UnusableFile
from finebatch.store.health import MIGRATIONS
from finebatch.store.models import Base, SessionRow, VersionRow
from finebatch.workflow.dough.doughs import get_dough
from finebatch.workflow.dough.versions import history

LINES = (
    Line("250", "g", "flour_ap"),
    Line("170", "g", "butter_unsalted"),
    Line("150", "g", "sugar_white"),
    Line("1", "egg", "egg_whole"),
)


@pytest.fixture
def database(tmp_path: Path) -> Database:
    return Database(tmp_path / "new" / "folder" / "data.sqlite3")


def test_the_migrations_make_exactly_the_tables(database: Database) -> None:
    with database.engine.connect() as connection:
        context = MigrationContext.configure(connection)
        assert compare_metadata(context, Base.metadata) == []


def test_the_file_is_in_wal_mode_with_foreign_keys_enforced(database: Database) -> None:
    with database.reading() as session:
        assert session.scalar(text("PRAGMA journal_mode")) == "wal"
        assert session.scalar(text("PRAGMA foreign_keys")) == 1
    with pytest.raises(IntegrityError), database.writing() as session:
        session.add(
            VersionRow(
                dough_id=99,
                number=1,
                at=0,
                said="",
                reason="",
                card=Card("", "drop", "creamed", ()),
            )
        )


def test_opening_again_keeps_what_is_there(tmp_path: Path) -> None:
    file = tmp_path / "data.sqlite3"
    first = Database(file)
    with first.writing() as session:
        session.execute(
            text(
                "INSERT INTO dough (name, family, card, revision, changed_at) "
                "VALUES ('A', 'drop', '{}', 1, 0)"
            )
        )
    first.close()
    with Database(file).reading() as session:
        assert session.scalar(text("SELECT name FROM dough")) == "A"


def test_an_error_in_the_middle_keeps_nothing(database: Database) -> None:
    insert = text(
        "INSERT INTO dough (name, family, card, revision, changed_at) "
        "VALUES ('A', 'drop', '{}', 1, 0)"
    )
    with pytest.raises(ZeroDivisionError), database.writing() as session:
        session.execute(insert)
        _ = 1 / 0
    with database.reading() as session:
        assert session.scalar(text("SELECT count(*) FROM dough")) == 0


def test_a_file_of_a_newer_version_is_left_alone(tmp_path: Path) -> None:
    file = tmp_path / "data.sqlite3"
    Database(file).close()
    with sqlite3.connect(file) as raw:
        raw.execute("UPDATE alembic_version SET version_num = '9999'")
    before = file.read_bytes()
    with pytest.raises(UnusableFile, match="newer Fine Batch"):
        Database(file)
    assert file.read_bytes() == before


def test_a_file_that_is_no_data_file_says_so(tmp_path: Path) -> None:
    file = tmp_path / "data.sqlite3"
    file.write_bytes(b"flour, butter, sugar" * 100)
    with pytest.raises(UnusableFile, match="cannot be used as a data file"):
        Database(file)


def test_a_file_whose_fault_is_no_text_says_so(tmp_path: Path) -> None:
    file = tmp_path / "data.sqlite3"
    Database(file).close()
    # SQLite names what it cannot make sense of, and that name is no UTF-8.
    spoilt = file.read_bytes().replace(b"ix_event_session_id", b"ix_\xceevent_sessionid")
    file.write_bytes(spoilt.replace(b"CREATE INDEX ix_\xce", b"CREATX INDEX ix_\xce"))
    with pytest.raises(UnusableFile, match="damaged"):
        Database(file)


def test_a_folder_that_cannot_be_made_says_so(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("in the way")
    with pytest.raises(UnusableFile, match="FINEBATCH_DATA_FILE"):
        Database(tmp_path / "file" / "data.sqlite3")


WRITER = """
import sys
from pathlib import Path
from sqlalchemy import create_engine, text
from finebatch.store.database import Database
database = Database(Path(sys.argv[1]))
for n in range(10**6):
    with database.writing() as session:
        for part in range(3):
            session.execute(text("INSERT INTO dough (name, family, card, revision, changed_at) "
                                 f"VALUES ('{n}.{part}', 'drop', 'null', 1, 0)"))
    print(n, flush=True)
"""


def test_a_killed_server_loses_nothing_that_was_kept(tmp_path: Path) -> None:
    file = tmp_path / "data.sqlite3"
    writer = subprocess.Popen(
        [sys.executable, "-c", WRITER, str(file)], stdout=subprocess.PIPE, text=True
    )
    assert writer.stdout is not None
    seen = [int(writer.stdout.readline()) for _ in range(20)][-1]
    os.kill(writer.pid, signal.SIGKILL)
    writer.wait()
    writer.stdout.close()
    with Database(file).reading() as session:
        count = session.scalar(text("SELECT count(*) FROM dough"))
        assert count is not None
        assert count >= 3 * (seen + 1)
        assert count % 3 == 0
        assert session.scalar(text("PRAGMA integrity_check")) == "ok"


def test_a_file_of_the_first_version_keeps_its_cards(tmp_path: Path) -> None:
    """Lines in rows of their own become documents, as they were written, with a first version."""
    file = tmp_path / "data.sqlite3"
    engine = create_engine(f"sqlite:///{file}")
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0001")
        for insert in (
            "INSERT INTO dough (id, name, family, mixing, revision, changed_at) "
            "VALUES (7, 'Old rounds', 'rolled', 'melted', 3, 99)",
            "INSERT INTO dough_line (dough_id, position, amount, unit, ingredient) "
            "VALUES (7, 1, '1 stick', 'stick', NULL), (7, 0, '2 1/4', 'cup', 'flour_ap')",
            "INSERT INTO tray_setting VALUES (7, 20, 5, 50, 300, 55, 'weighed', 10, 175, "
            "'parchment', 60)",
        ):
            connection.execute(text(insert))
    engine.dispose()
    with Database(file).reading() as session:
        dough = get_dough(session, 7)
        assert (dough.card.name, dough.card.family, dough.card.mixing) == (
            "Old rounds",
            "rolled",
            "melted",
        )
        assert [(line.amount, line.unit, line.ingredient) for line in dough.card.lines] == [
            ("2 1/4", "cup", "flour_ap"),
            ("1 stick", "stick", None),
        ]
        assert dough.revision == 3
        assert [v.number for v in history(session, 7)] == [1]
        # 20 g at 5 mm was a round cutter of about 6.4 cm.
        piece = dough.tray.piece
        assert isinstance(piece, Rolled)
        assert (piece.thickness_mm, piece.cutter.across_mm) == (5, 64)
        assert (dough.tray.oven_c, dough.tray.chill_min) == (175, 60)


OLD_WORK = {
    "dough": {"mix_min": 15, "chill_min": 30},
    "trays": [
        {
            "name": "A1",
            "pieces": 12,
            "portion_min": 5,
            "rest_min": 3,
            "cool_min": 25,
            "slice_min": 0,
            "bakes": [{"minutes": 12, "turn_after": 6, "extra": 3}],
        }
    ],
    "kitchen": {
        "sheets": 2,
        "shelves": 1,
        "oven_heat_min": 18,
        "sheet_ready_min": 8,
        "load_min": 1,
        "turn_min": 1,
        "out_min": 1,
        "rack_min": 1,
        "raw_wait_min": 45,
        "rest_over_min": 30,
    },
}
"""One dough's work as it was kept before sessions had several."""


def test_a_session_of_an_earlier_version_goes_on(tmp_path: Path) -> None:
    """Its snapshot carried the portion as four figures; they become a document of its kind."""
    file = tmp_path / "data.sqlite3"
    engine = create_engine(f"sqlite:///{file}")
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    old_piece = {
        "grams": 16,
        "thickness_mm": 6,
        "log_diameter_mm": 50,
        "log_length_mm": 300,
        "log_width_mm": 55,
    }
    setting = {
        "piece": old_piece,
        "evenness": "weighed",
        "dough_temp_c": 6,
        "oven_c": 160,
        "surface": "parchment",
        "chill_min": 85,
    }
    kitchen = {
        "sheet_width_mm": 405,
        "sheet_depth_mm": 305,
        "margin_mm": 10,
        "gap_mm": 12,
        "sheets": 2,
        "shelves": 1,
        "oven_mode": "conventional",
        "cup": "spooned",
        "egg": "US large",
        "own_units": "grams",
    }
    question = {
        "formula_g": {"flour_ap": 250, "butter_unsalted": 200, "sugar_white": 100},
        "family": "shortbread",
        "mixing": "creamed",
        "setting": setting,
        "kitchen": kitchen,
    }
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0002")
        connection.execute(
            text(
                "INSERT INTO session (id, state, start_at, snapshot, work, bound, changed_at) "
                "VALUES (1, 'running', 0, :snapshot, :work, 0, 0)"
            ),
            {
                "snapshot": json.dumps({"name": "Old rounds", "question": question}),
                "work": json.dumps(OLD_WORK),
            },
        )
        for key, kind, tray in (
            ("dough.mix", "mix", None),
            ("oven.heat", "heat", None),
            ("A1.load", "load", "A1"),
            ("A1.cool", "cool", "A1"),
        ):
            connection.execute(
                text(
                    "INSERT INTO activity (session_id, key, kind, tray, place, start, end, "
                    "critical) VALUES (1, :key, :kind, :tray, 'bench', 0, 15, 0)"
                ),
                {"key": key, "kind": kind, "tray": tray},
            )
        connection.execute(
            text(
                "INSERT INTO event (session_id, at, kind, activity) "
                "VALUES (1, 900000, 'done', 'dough.mix')"
            )
        )
    engine.dispose()
    with Database(file).reading() as session:
        row = session.get_one(SessionRow, 1)
        (item,) = row.snapshot.items
        asked, work = item.question, row.work
        assert [e.activity for e in row.events] == ["A.mix"]
        doughs = {f"{a.id}": a.dough for a in row.plan.activities}
    assert doughs == {"A.mix": "A", "oven.heat": None, "A1.load": "A", "A1.cool": "A"}
    assert (work.dough("A").chill_min, work.trays[0].bakes[0].oven_c) == (30, 160)
    assert work.kitchen.ovens[0].heat_min(160) == 18
    piece = asked.setting.piece
    assert isinstance(piece, Sliced)
    # 16 g of a 50 mm log were slices of 6.5 mm.
    assert (piece.log_diameter_mm, piece.thickness_mm) == (50, 6.5)
    assert asked.setting.oven_c == 160
