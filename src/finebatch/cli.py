"""The command line: serve the app, evaluate case files, bring doughs in and give them out."""

from __future__ import annotations

import json
import socket
from collections import Counter
from importlib.metadata import version
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from finebatch.cli_data import (
    back_up_file,
    give_out_everything,
    open_file,
    restore_file,
    say_token,
    settings_now,
    stop,
    unusable,
)
from finebatch.cli_session import plan_session, print_schema
from finebatch.cli_words import say
from finebatch.core.formula.checks.method import ForeseenPiece
from finebatch.core.formula.dough import Card, WeighedDough
from finebatch.core.formula.judge_cards import UnderstoodCard, understand
from finebatch.core.formula.judge_lines import JudgedLine, judge_lines
from finebatch.core.piece.cases import Case, Judged, Summary, judge, summarise
from finebatch.core.refusal import Refusal
from finebatch.facts import formula, tables
from finebatch.formats.cases import (
    kind_of,
    parse_cards,
    parse_cases,
    parse_lines,
)
from finebatch.formats.decoded import text_of
from finebatch.formats.unreadable import UnreadableFile
from finebatch.settings import Settings
from finebatch.workflow.dough.from_card import foreseen_piece
from finebatch.workflow.kitchen.equipment import usual_kitchen

if TYPE_CHECKING:
    from finebatch.workflow.dough.dough_files import Brought

app = typer.Typer(add_completion=False, no_args_is_help=True, help=__doc__)


def _say_version(wanted: bool) -> None:
    if wanted:
        say(version("finebatch"))
        raise typer.Exit


@app.callback()
def about(
    _version: Annotated[
        bool,
        typer.Option(
            "--version", help="Say which version this is.", callback=_say_version, is_eager=True
        ),
    ] = False,
) -> None:
    """Formulate, portion, schedule, bake and learn: a workbench for home cookie bakers."""


def _check_port(port: int, command: str) -> None:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError as error:
            raise stop(
                f"Port {port} is in use or not allowed ({error.strerror}). Stop what runs there, "
                f"or choose another: FINEBATCH_PORT={min(port + 1, 65535)} make {command}"
            ) from error


def _serve(settings: Settings, *, demo: bool) -> None:
    from finebatch.demo.load import load
    from finebatch.devices.chosen import UnknownDevice
    from finebatch.store.database import UnusableFile
    from finebatch.store.places import Served, ServedElsewhere, photos_of
    from finebatch.web.app import STATIC, create_app
    from finebatch.web.clock import MovedClock, system_clock
    from finebatch.web.demo_beside import end_with_parent
    from finebatch.web.server import server_of

    if not (STATIC / "index.html").is_file():
        raise stop("The interface has not been built. Run: make setup")
    _check_port(settings.port, "demo" if demo else "run")
    address = f"http://127.0.0.1:{settings.port}"
    try:
        settings.data_file.parent.mkdir(parents=True, exist_ok=True)
        _only = Served(settings.data_file, address)
    except ServedElsewhere as error:
        raise stop(
            f"Fine Batch is open on {settings.data_file} already: {error}\n"
            "Use that one, or stop it, or name another file with FINEBATCH_DATA_FILE."
        ) from error
    except OSError:
        pass  # what is wrong with the folder is told when the data file is opened
    try:
        clock = MovedClock() if demo else system_clock
        served = create_app(settings, clock)
    except UnusableFile as error:
        raise stop(unusable(error, settings.data_file)) from error
    except UnknownDevice as error:
        raise stop(str(error)) from error
    if demo:
        from finebatch.demo.alive import bake_under_way, bring_to_life

        if settings.back_to:
            end_with_parent()
        served.state.show_bake = bake_under_way
        pictures = photos_of(settings.data_file)
        if load(served.state.database, clock(), pictures):
            supper = bring_to_life(served.state.database, clock(), pictures)
            served.state.searches.begin(supper)
    # A demo that was opened once to the network is not opened by the next start.
    served.state.reopens = not demo
    say(f"Fine Batch: {address}   (stop with Ctrl+C)")
    say(f"Data file:  {settings.data_file}")
    server_of(served, settings.port).run()


@app.command()
def serve() -> None:
    """Start the app on your own data file."""
    _serve(settings_now(), demo=False)


@app.command()
def demo() -> None:
    """Start the app with the demo data, in a data file of its own."""
    settings = settings_now()
    if "data_file" not in settings.model_fields_set:
        settings = settings.model_copy(update={"data_file": Path("data/demo.sqlite3").resolve()})
    _serve(settings, demo=True)


@app.command()
def openapi() -> None:
    """Print the OpenAPI document of the API."""
    import tempfile

    from finebatch.web.app import create_app

    with tempfile.TemporaryDirectory() as folder:
        document = create_app(Settings(data_file=Path(folder) / "x.sqlite3")).openapi()
    say(json.dumps(document, indent=1, ensure_ascii=False))


def _to(digits: int, figure: float | None) -> float | None:
    return None if figure is None else round(figure, digits)


def _row(judged: Judged) -> dict[str, object]:
    case, found = judged.case, judged.foreseen
    return {
        "id": case.id,
        "observed_mm": case.observed_mm,
        "predicted_mm": _to(1, found.width.middle_mm if found else None),
        "low_mm": _to(1, found.width.low_mm if found else None),
        "high_mm": _to(1, found.width.high_mm if found else None),
        "error_pct": _to(2, judged.error_pct),
        "thickness_mm": _to(1, found.thickness.height_mm if found else None),
        "minutes": round(judged.minutes, 1),
        "minutes_second": _to(1, judged.minutes_second),
    }


def _refused(case: Case, refusal: Refusal) -> dict[str, object]:
    """A case that cannot be foreseen, with the reason in place of figures."""
    figures = ("predicted_mm", "low_mm", "high_mm", "error_pct", "thickness_mm", "minutes")
    nothing: dict[str, object] = dict.fromkeys((*figures, "minutes_second"))
    reason = " ".join(fault.message for fault in refusal.faults)
    return {"id": case.id, "observed_mm": case.observed_mm, **nothing, "refused": reason}


def _mm(figure: object) -> str:
    return "–" if figure is None else f"{figure} mm"


def _print_table(rows: list[dict[str, object]], summary: Summary) -> None:
    say(
        f"{'case':28}{'observed':>10}{'predicted':>11}{'80 % band':>16}{'error':>9}"
        f"{'thick':>8}{'minutes':>9}"
    )
    for row in rows:
        seen = f"{row['id']!s:28}{_mm(row['observed_mm']):>10}"
        if "refused" in row:
            say(f"{seen}   {row['refused']}")
            continue
        band = "–" if row["low_mm"] is None else f"{row['low_mm']} to {row['high_mm']}"
        error = "–" if row["error_pct"] is None else f"{row['error_pct']:+} %"
        say(
            f"{seen}{_mm(row['predicted_mm']):>11}{band:>16}{error:>9}"
            f"{_mm(row['thickness_mm']):>8}{row['minutes']:>9}"
        )
    say(
        f"\n{summary.n} cases: median error {summary.median_abs_error_pct:.2f} %, largest "
        f"{summary.max_abs_error_pct:.2f} %; {summary.band_share:.0%} inside the band; minutes "
        f"fit in {summary.minutes_share:.0%}."
    )


def _evaluate_pieces(text: str, as_json: bool) -> None:
    judged: list[Judged] = []
    rows: list[dict[str, object]] = []
    for case in parse_cases(text):
        # An ingredient that the larder lacks is a fault of the file, not of the case.
        case.composition(tables.larder())
        try:
            judged.append(judge(case, tables.models(), tables.larder()))
            rows.append(_row(judged[-1]))
        except Refusal as refusal:
            rows.append(_refused(case, refusal))
    summary = summarise(judged)
    if as_json:
        figures = {name: getattr(summary, name) for name in Summary.__slots__}
        say(json.dumps({"cases": rows, "summary": figures}, indent=1, ensure_ascii=False))
    else:
        _print_table(rows, summary)


def _line_row(judged: JudgedLine) -> dict[str, object]:
    read = judged.read
    return {
        "text": read.text,
        "ingredient": read.ingredient,
        "grams": None if read.grams is None else round(read.grams, 2),
        "range_grams": None if read.range_g is None else [round(g, 2) for g in read.range_g],
        "conflict": read.conflict,
        "asked": bool(read.asks),
        "purpose": read.purpose,
        "verdict": judged.verdict,
    }


def _evaluate_lines(text: str, as_json: bool) -> None:
    judged = judge_lines(parse_lines(text), tables.reader())
    counts = Counter(j.verdict for j in judged)
    summary = {"n": len(judged)} | {word: counts[word] for word in ("right", "wrong", "asked")}
    if as_json:
        rows = [_line_row(j) for j in judged]
        say(json.dumps({"lines": rows, "summary": summary}, indent=1, ensure_ascii=False))
        return
    for j in judged:
        grams = "–" if j.read.grams is None else f"{j.read.grams:.1f} g"
        say(f"{j.verdict:7}{j.read.text:52}{j.read.ingredient or '–':22}{grams:>10}")
        for ask in j.read.asks:
            say(f"{'':9}{ask}")
    say(
        f"\n{len(judged)} lines: {counts['right']} right, {counts['wrong']} wrong, "
        f"{counts['asked']} asked."
    )


def _span(found: tuple[float, float] | None) -> list[float] | None:
    return None if found is None else [round(found[0], 1), round(found[1], 1)]


def _card_row(card: UnderstoodCard) -> dict[str, object]:
    says = card.says
    spans = ("minutes", "second_minutes", "chill_min", "rest_min", "wait_min", "setting_min")
    figures = ("oven_c", "second_oven_c", "pieces", "piece_g", "thickness_mm", "cutter_mm")
    lengths = ("slice_mm", "logs", "log_mm", "log_length_mm", "pan_mm")
    parts = [
        {"kind": part.kind, "ingredients": [one.ingredient for one in part.lines if one.ingredient]}
        for part in card.read.parts
        if part.kind != "bench"
    ]
    steps = card.read.steps
    return {
        "id": card.id,
        "family": card.card.family,
        "mixing": card.card.mixing,
        "dough_g": round(card.dough_g, 1),
        "parts": parts,
        "fan": says.fan,
        "oven_asked": says.oven_asked,
        **{name: _span(getattr(says, name)) for name in spans},
        "cool_before_slicing_min": _span(says.cool_before_slicing_min),
        **{name: getattr(says, name) for name in (*figures, *lengths)},
        "of_eggs": says.of_eggs,
        "doneness": says.doneness,
        "colour": says.colour,
        "mix_hands_min": sum(step.hands_min for step in steps),
        "steps": [
            {"text": one.text, "hands_min": one.hands_min, "wait_min": one.wait_min}
            for one in steps
        ],
        "alarms": card.alarms,
        "asked": card.asked,
    }


def _evaluate_cards(text: str, as_json: bool) -> None:
    facts = formula.checking(tables.reader())
    kitchen, larder = usual_kitchen(), tables.larder()

    def foreseen(card: Card, weighed: WeighedDough) -> ForeseenPiece | None:
        return foreseen_piece(card, weighed, kitchen, larder)

    cards = [understand(case, facts, foreseen) for case in parse_cards(text)]
    asked = sum(len(card.asked) for card in cards)
    alarms = sum(len(card.alarms) for card in cards)
    if as_json:
        summary = {"n": len(cards), "asked": asked, "alarms": alarms}
        rows = [_card_row(card) for card in cards]
        say(json.dumps({"cards": rows, "summary": summary}, indent=1, ensure_ascii=False))
        return
    for card in cards:
        known = {k: v for k, v in _card_row(card).items() if v not in (None, [], False)}
        say(f"{card.id}: {card.read.title}")
        for name in known.keys() - {"id", "steps"}:
            say(f"    {name:24}{known[name]}")
    say(f"\n{len(cards)} cards: {asked} questions, {alarms} kinds of alarm.")


_EVALUATED = {"lines": _evaluate_lines, "cards": _evaluate_cards, "cases": _evaluate_pieces}


@app.command()
def evaluate(
    file: Annotated[
        Path, typer.Argument(help="A JSON file with measured cases, written lines or whole cards.")
    ],
    as_json: Annotated[bool, typer.Option("--json", help="Print JSON for machines.")] = False,
) -> None:
    """Set what Fine Batch works out beside known cases.

    Reads files of measured pieces (`cases`), of written lines (`lines`) and of whole cards
    (`cards`). Exit status 2 when the file cannot be read.
    """
    try:
        text = text_of(file)
        _EVALUATED[kind_of(text)](text, as_json)
    except UnreadableFile as error:
        raise stop(f"{file}: {error}", 2) from error
    except Refusal as refusal:
        raise stop(f"{file}: {refusal}", 2) from refusal


def _say_brought(brought: Brought) -> None:
    say(f"{brought.card.name}: {len(brought.card.lines)} lines, {brought.total_g:.0f} g")
    for ask in brought.asks:
        say(f"    {ask}")
    if brought.left_out:
        say(f"    Has no place on a card, and is left out: {', '.join(brought.left_out)}")


@app.command("import")
def bring_in(
    file: Annotated[Path, typer.Argument(help="Recipe JSON-LD, CSV, or a card as text.")],
    look: Annotated[bool, typer.Option("--look", help="Show it and keep nothing.")] = False,
) -> None:
    """Bring the doughs of a file into the data file: all of them, or none.

    Exit status 2 when the file cannot be read.
    """
    from finebatch.web.clock import system_clock
    from finebatch.workflow.dough import dough_files as exchange

    try:
        text = text_of(file)
    except UnreadableFile as error:
        raise stop(f"{file}: {error}", 2) from error
    database = open_file(settings_now())
    try:
        with database.writing() as session:
            for brought in exchange.look(session, file.name, text):
                _say_brought(brought)
            kept = [] if look else exchange.bring_in(session, file.name, text, system_clock())
            for dough in kept:
                say(f"Kept as number {dough.id}.")
    except Refusal as refusal:
        raise stop(f"{file}: {refusal.faults[0].message} Nothing was kept.", 2) from refusal
    finally:
        database.close()


@app.command("export")
def give_out(
    dough: Annotated[str, typer.Argument(help="The dough's number, or its whole name.")],
    form: Annotated[str, typer.Option("--format", help="jsonld, csv, txt or md.")] = "jsonld",
    out: Annotated[Path | None, typer.Option("--out", help="A file instead of the screen.")] = None,
) -> None:
    """Write a dough in an open format."""
    from finebatch.workflow.dough import dough_files as exchange
    from finebatch.workflow.dough import doughs
    from finebatch.workflow.errors import Missing

    wanted = next((f for f in exchange.FORMATS if f == form), None)
    if wanted is None:
        raise stop(f"There is no format {form}. Use {', '.join(exchange.FORMATS)}.", 2)
    database = open_file(settings_now())
    try:
        with database.reading() as session:
            number = (
                int(dough)
                if dough.isdecimal() and len(dough) < 16
                else doughs.find_by_name(session, dough)
            )
            _, text = exchange.give_out(session, number, wanted)
    except Missing as error:
        raise stop(f"There is no dough “{dough}” in the data file.") from error
    finally:
        database.close()
    if out is None:
        say(text, nl=False)
        return
    try:
        out.write_text(text, encoding="utf-8", newline="")
    except OSError as error:
        raise stop(f"{out} cannot be written ({error.strerror}).") from error


app.command("backup")(back_up_file)
app.command("token")(say_token)
app.command("everything")(give_out_everything)
app.command("restore")(restore_file)
app.command("plan")(plan_session)
app.command("schema")(print_schema)


if __name__ == "__main__":
    app()
