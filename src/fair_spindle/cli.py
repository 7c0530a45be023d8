"""The command line: serve, demo, calc, and looking after the workshop's data."""

from __future__ import annotations

import json
import os
import socket
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, NoReturn

import typer

from fair_spindle.core.basics.errors import SpindleError

if TYPE_CHECKING:
    from fair_spindle.records.database import Database

app = typer.Typer(
    no_args_is_help=True,
    pretty_exceptions_enable=False,
    help="Planner, calculator, floor guide and logbook for suspension tuners.",
)
Port = Annotated[int, typer.Option(min=1, max=65535, help="Port to listen on.")]
Db = Annotated[Path | None, typer.Option(help="Database file; your own data folder if left out.")]
Host = Annotated[str, typer.Option(help="Address to listen on; any but loopback shares it in the network.")]
LOOPBACK = ("127.0.0.1", "localhost", "::1")


def _say_version(wanted: bool) -> None:
    if wanted:
        from importlib.metadata import version

        typer.echo(f"Fair Spindle {version('fair-spindle')}")
        raise typer.Exit


@app.callback()
def every_command(
    _: Annotated[
        bool, typer.Option("--version", callback=_say_version, is_eager=True, help="Say the version and stop.")
    ] = False,
) -> None:
    """Planner, calculator, floor guide and logbook for suspension tuners."""


@app.command()
def serve(
    port: Port = 8613,
    host: Host = "127.0.0.1",
    db: Db = None,
    shared: Annotated[
        bool, typer.Option("--shared", help="Let devices of the workshop's network in, over TLS.")
    ] = False,
    plain_http: Annotated[
        bool, typer.Option("--plain-http", help="Share without TLS: no installed pages, and codes in the clear.")
    ] = False,
) -> None:
    """Serve the application on your own data."""
    file = db or _own_database()
    if not (shared or plain_http or host not in LOOPBACK):
        _run(file, host, port, _bind(host, port), keeps_copies=True)
        return
    _share(file, "0.0.0.0" if host in LOOPBACK else host, port, safe=not plain_http)


@app.command()
def demo(
    port: Port = 8613,
    db: Annotated[Path | None, typer.Option(help="Where to make the demo database, new at each start.")] = None,
) -> None:
    """Serve the application on a fresh sample workshop."""
    host = "127.0.0.1"
    listener = _bind(host, port)
    file = db or Path(tempfile.mkdtemp(prefix="fair-spindle-demo-")) / "demo.sqlite"
    if file.exists():
        _stop(f"{file} exists already; the demo makes a new file. Name another, or leave --db out.", 2)
    from fair_spindle.demo.workshop import fill
    from fair_spindle.records.database import Database

    database = Database(file)
    fill(database)
    database.close()
    _run(file, host, port, listener)


@app.command()
def calc(
    name: Annotated[str | None, typer.Argument(help="Name of a calculation.")] = None,
    list_: Annotated[bool, typer.Option("--list", help="Name the calculations.")] = False,
    schema: Annotated[bool, typer.Option("--schema", help="Print input and output JSON Schema.")] = False,
) -> None:
    """Run a published calculation: JSON on standard input, JSON on standard output."""
    from pydantic import ValidationError

    from fair_spindle.calculations import CALCULATIONS, answer, find

    if list_ or name is None:
        for each in CALCULATIONS.values():
            typer.echo(f"{each.name:16} {each.title}")
        return
    try:
        calculation = find(name)
        if schema:
            _print(calculation.schema())
            return
        _print(answer(calculation, calculation.takes.model_validate_json(sys.stdin.buffer.read())))
    except ValidationError as error:
        first = error.errors(include_url=False, include_input=False)[0]
        field = ".".join(str(part) for part in first["loc"])
        _stop(f"{field}: {first['msg']}" if field else first["msg"], 2)
    except SpindleError as error:
        _stop(f"{error.field}: {error.message}" if error.field else error.message, 2)


@app.command()
def blind(
    cars: Annotated[int, typer.Option(min=1, max=1000, help="Cars of each layout.")] = 8,
    layout: Annotated[list[str] | None, typer.Option(help="Layouts; all of them if left out.")] = None,
    depth: Annotated[bool, typer.Option("--depth", help="Cars of which little is told, depth by depth.")] = False,
) -> None:
    """Let a robot tuner work on practice cars, and say what it leaves beside what steps and gauges leave."""
    from fair_spindle.examiner.report import LAYOUTS, report
    from fair_spindle.examiner.sparse import report_depths

    if depth:
        for line in report_depths(cars):
            typer.echo(line)
        return

    strange = [one for one in layout or () if one not in LAYOUTS]
    if strange:
        _stop(f"The robot knows {', '.join(LAYOUTS)}; got {strange[0]}.", 2)
    for line in report(cars, layout or LAYOUTS, ends=not layout):
        typer.echo(line)


@app.command()
def backup(
    to: Annotated[Path, typer.Argument(help="Where to write the backup (ZIP).")],
    db: Db = None,
    practice: Annotated[bool, typer.Option("--practice", help="With the practice jobs.")] = False,
) -> None:
    """Write a checked backup of the whole workshop, with its pictures."""
    from fair_spindle.jobs.backup import back_up

    if to.exists():
        _stop(f"{to} exists already. Name another file.", 2)
    with _opened(db) as database:
        to.write_bytes(back_up(database, practice=practice))
    typer.echo(f"Written to {to}.")


@app.command()
def restore(
    backup: Annotated[Path, typer.Argument(help="A backup (ZIP).", exists=True, dir_okay=False)], db: Db = None
) -> None:
    """Put a backup in the place of the workshop's data; what was there is kept beside it."""
    from fair_spindle.jobs.backup import restore

    with _opened(db) as database:
        typer.echo(restore(database, backup.read_bytes(), apply=True).said)


@app.command(name="export")
def export_(
    job: Annotated[str, typer.Argument(help="Id of a job, or words of its title and car that fit one alone.")],
    to: Annotated[Path, typer.Argument(help="Where to write the job file (ZIP, with its pictures).")],
    db: Db = None,
) -> None:
    """Write a job with its car's record and pictures into one file."""
    from fair_spindle.jobs.book import all_jobs
    from fair_spindle.jobs.exchange import export_zip

    if to.exists():
        _stop(f"{to} exists already. Name another file.", 2)
    with _opened(db) as database:
        every = all_jobs(database, 200)
        found = [line for line in every if line.id == job] or all_jobs(database, 200, job)
        if len(found) != 1:
            told = "; ".join(f"{line.id} {line.car}: {line.title}" for line in (found or every)[:8])
            _stop(f"{len(found)} jobs fit “{job}”. {'Which of' if found else 'There are'}: {told}", 2)
        to.write_bytes(export_zip(database, found[0].id))
    typer.echo(f"{found[0].car}: {found[0].title}, written to {to}.")


@app.command(name="import")
def import_(
    file: Annotated[Path, typer.Argument(help="A job file (JSON or ZIP).", exists=True, dir_okay=False)],
    car: Annotated[str, typer.Option(help="Which car it is, where one like it is here; asked for when it is.")] = "",
    db: Db = None,
) -> None:
    """Bring a job file in; where its car is here already, say which car it is."""
    from fair_spindle.jobs.importing import import_job

    with _opened(db) as database:
        content = file.read_bytes()
        looked = import_job(database, content, False)
        if looked.answers and not car:
            ways = "; ".join(f"--car {answer.value}: {answer.label}" for answer in looked.answers)
            _stop(f"{looked.said} Say which car it is. {ways}", 2)
        done = import_job(database, content, True, car)
    typer.echo(f"{done.car}: {done.title}, {done.entries} entries. {done.said}")


@app.command()
def check(file: Annotated[Path, typer.Argument(help="A database, job file or backup.", exists=True)]) -> None:
    """Say whether a database, a job file or a backup is whole; nothing is changed."""
    from fair_spindle.jobs.checking_files import check_file

    typer.echo(check_file(file))


def _open(file: Path) -> Database:
    """Open a database before anything is said or served; what is wrong with it ends the program in one line."""
    from fair_spindle.jobs.soundness import check_before_start
    from fair_spindle.records.database import Database

    check_before_start(file)
    return Database(file)


@contextmanager
def _opened(db: Path | None) -> Iterator[Database]:
    from fair_spindle.records.database import Database

    # A backup can be put in the place of what no longer reads.
    database = Database(db or _own_database())
    try:
        yield database
    finally:
        database.close()


def main() -> None:
    """Entry point of ``fair-spindle``."""
    try:
        app()
    except SpindleError as error:
        _stop(error.message, 2)


def _own_database() -> Path:
    from platformdirs import user_data_path

    return user_data_path("fair-spindle") / "workshop.sqlite"


def _bind(host: str, port: int) -> socket.socket:
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    listener = socket.socket(family, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((host, port))
        listener.listen(128)
    except OSError as error:
        _stop(f"Cannot listen on {host} port {port}: {error.strerror}. Choose another with --port.", 1)
    return listener


def _share(file: Path, host: str, port: int, *, safe: bool) -> None:
    """Serve in the network: over TLS with a plain port beside it that leads there, or without."""
    from fair_spindle.api.app import create_app
    from fair_spindle.api.gate import Sharing
    from fair_spindle.network.addresses import own_addresses
    from fair_spindle.network.authority import credentials_of
    from fair_spindle.network.serving import serve_plain, serve_safely
    from fair_spindle.network.welcome import welcome_app

    own = own_addresses()
    listener = _bind(host, port)
    database = _open(file)
    usual = own.usual if host in ("0.0.0.0", "::") else host
    if not safe:
        sharing = Sharing(True, False, f"http://{_in_url(usual)}:{port}", "", port)
        typer.echo(f"Fair Spindle, shared: {sharing.address}; here: http://127.0.0.1:{port}")
        typer.echo(
            "Without TLS anybody in this network can read along, and phones keep no pages for a lost connection."
        )
        serve_plain(create_app(database, {host, *own.all}, keeps_copies=True, sharing=sharing), listener)
        return
    plain = _bind(host, port + 1)
    credentials = credentials_of(file.with_name(f"{file.name}.tls"), own)
    address, trust = f"https://{_in_url(usual)}:{port}", f"http://{_in_url(usual)}:{port + 1}"
    sharing = Sharing(True, True, address, trust, port)
    typer.echo(f"Fair Spindle, shared: {address}; here: https://localhost:{port}")
    typer.echo(f"New devices begin at {trust}, then enter the code from Devices.")
    application = create_app(database, {host, *own.all}, keeps_copies=True, sharing=sharing)
    serve_safely(application, listener, credentials, welcome_app(credentials.authority, port, own), plain)


def _in_url(host: str) -> str:
    return f"[{host}]" if ":" in host else host


def _run(file: Path, host: str, port: int, listener: socket.socket, *, keeps_copies: bool = False) -> None:
    # Looking for plugins of pydantic takes time and finds nothing.
    os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "true")
    from fair_spindle.api.lazy import nothing_collected

    with nothing_collected():
        from fair_spindle.api.app import create_app
        from fair_spindle.network.serving import serve_plain

        application = create_app(_open(file), hosts=[host], keeps_copies=keeps_copies)
    typer.echo(f"Fair Spindle: http://{_in_url(host)}:{port}")
    serve_plain(application, listener)


def _print(data: object) -> None:
    typer.echo(json.dumps(data, ensure_ascii=False, indent=2))


def _stop(message: str, status: int) -> NoReturn:
    typer.echo(" ".join(message.split()), err=True)
    raise SystemExit(status)
