"""The commands of the supplier catalogue: the stand-in service, look-ups, facts copied, refreshed, alternates."""

import json
import time
from pathlib import Path

import click

from eider.catalogue.client import Answered
from eider.catalogue.offers import OfferChoice, best_quote
from eider.catalogue.protocol import CatalogueEntry, PartPage
from eider.catalogue.service import ServiceManner, read_trouble
from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.commands.facts.supplier_facts import TakingChoice, take_entry
from eider.demo.catalogue import demo_service
from eider.errors import InputError
from eider.library import Library
from eider.model.codec import to_data
from eider.model.wording import counted
from eider.services.parts.part_evaluation import save_evaluated
from eider.services.suppliers.supplier_lookup import (
    NUMBER,
    find_alternates,
    learned_names,
    look_up,
    open_catalogue,
    preferred_suppliers,
    query_of_text,
)
from eider.services.suppliers.supplier_refresh import keep_lifecycles, refresh_standing
from eider.views.candidate_rows import age_words, money

_ADDRESS = click.option("--address", default="", help="The service; the library's own unless given.")
_TOKEN = click.option("--token", default="", help="An access token; EIDER_CATALOGUE_TOKEN unless given.")


@click.group("catalogue")
def catalogue() -> None:
    """Look parts up at suppliers, or serve a stand-in catalogue to try against."""


@catalogue.command("serve")
@click.option("--port", type=click.IntRange(0, 65535), default=0, help="The port of this machine; any that is free.")
@click.option("--token", default="", help="Ask callers for this access token.")
@click.option("--limit", type=click.IntRange(0), default=0, help="Answer so many requests in a second, the rest 429.")
@click.option("--fail-every", type=click.IntRange(0), default=0, help="Answer every Nth request with 503.")
@click.option("--trouble", default="none", help="slow, failing, hanging, lying or huge.")
@json_option
def serve(port: int, token: str, limit: int, fail_every: int, trouble: str, as_json: bool) -> None:
    """Serve the demo's parts and 22,000 invented ones on this machine until Ctrl+C."""
    manner = ServiceManner(token=token, limit=limit, fail_every=fail_every, trouble=read_trouble(trouble))
    service = demo_service(whole=True, manner=manner, port=port)
    described = f"{service.address}/openapi.json"
    if as_json:
        click.echo(json.dumps({"address": service.address, "described": described}))
    else:
        click.echo(f"{service.address}  (described in {described}; Ctrl+C ends it)")
    try:
        service.wait()
    except KeyboardInterrupt:
        click.echo("closed", err=True)
    finally:
        service.close()


@catalogue.command("search")
@click.argument("words", nargs=-1)
@click.option(
    "--library", "folder", type=click.Path(path_type=Path), help="Use this library's catalogue and suppliers."
)
@_ADDRESS
@_TOKEN
@click.option("--category", default="", help="Only this category.")
@click.option("--supplier", "suppliers", multiple=True, help="Sold by this supplier; may be given several times.")
@click.option("--preferred", is_flag=True, help="Sold by a supplier that the library prefers.")
@click.option("--in-stock", is_flag=True, help="In stock now.")
@click.option("--currency", default="", help="Sold in this currency (ISO 4217).")
@click.option("--quantity", type=click.IntRange(1), default=1, show_default=True, help="Prices at this quantity.")
@click.option("--small", is_flag=True, help="Sold in no larger quantities than that.")
@click.option("--page", type=click.IntRange(1), default=1, help="The page of the answer.")
@click.option("--again", is_flag=True, help="Ask the service even where its answer is fresh.")
@json_option
def search(
    words: tuple[str, ...],
    folder: Path | None,
    address: str,
    token: str,
    category: str,
    suppliers: tuple[str, ...],
    preferred: bool,
    in_stock: bool,
    currency: str,
    quantity: int,
    small: bool,
    page: int,
    again: bool,
    as_json: bool,
) -> None:
    """Find parts by number, words, values, or facts as NAME=VALUE."""
    library = opened_library(folder) if folder else None
    address = address or (library.settings.catalogue if library else "")
    wanted = _wanted_suppliers(library, suppliers, preferred=preferred)
    choice = OfferChoice(wanted, currency, in_stock)
    query = query_of_text(" ".join(words))
    query = query.narrowed(
        category=category, suppliers=wanted, currency=currency, in_stock=in_stock,
        quantity=quantity if small else 0, page=page,
    )  # fmt: skip
    with shown_progress() as task:
        found = look_up(open_catalogue(address, token, task), query, again=again)
    data = {
        "parts": found.value.parts,
        "count": found.value.total,
        "page": found.value.page,
        "pages": found.value.pages,
        "asked": found.at,
        "doubt": found.doubt,
    }
    finish(data, _search_lines(found, choice, quantity), as_json)


def _wanted_suppliers(library: Library | None, named: tuple[str, ...], *, preferred: bool) -> tuple[str, ...]:
    if not preferred:
        return named
    if library is None:
        raise InputError("--preferred needs --library: the library says which suppliers it prefers")
    found = preferred_suppliers(library)
    if not found:
        raise InputError("the library prefers no supplier; choose some in Facts › Suppliers")
    return (*named, *found)


def _search_lines(found: Answered[PartPage], choice: OfferChoice, quantity: int) -> list[str]:
    page = found.value
    lines = [_entry_line(entry, choice, quantity) for entry in page.parts]
    pages = f", page {page.page} of {page.pages}" if page.pages > 1 else ""
    heard = age_words(max(time.time() - found.at, 0.0))
    return [*lines, *([found.doubt] if found.doubt else []), f"{counted(page.total, 'part')}{pages}, asked {heard}"]


def _entry_line(entry: CatalogueEntry, choice: OfferChoice, quantity: int) -> str:
    quote = best_quote(entry, choice, quantity)
    offer = f"{quote.offer.supplier} {quote.offer.number}: {quote.offer.stock:,} in stock" if quote else "no offer"
    price = f", {money(quote.each, quote.offer.currency)} each at {quote.ordered:,}" if quote else ""
    return f"{entry.part_number}, {entry.manufacturer}, {entry.description}: {entry.lifecycle}; {offer}{price}"


@catalogue.command("take")
@library_argument
@click.argument("item")
@click.option("--number", default="", help="The part number to look up; the part's own unless given.")
@_ADDRESS
@_TOKEN
@click.option("--replace", is_flag=True, help="Replace facts that are there.")
@click.option("--prices", is_flag=True, help="Copy price breaks too.")
@json_option
def take(
    folder: Path, item: str, number: str, address: str, token: str, replace: bool, prices: bool, as_json: bool
) -> None:
    """Copy the facts of a part from the catalogue into its working copy."""
    library = opened_library(folder)
    library.require_writable()
    bundle = library.load(library.find(item).id)
    address = address or library.settings.catalogue
    fact = bundle.part.facts.get(NUMBER)
    wanted = number or (fact.value if fact else bundle.part.name)
    with shown_progress() as task:
        found = open_catalogue(address, token, task).exact_parts([wanted], lambda _share: None)
    if len(found) != 1:
        makers = ", ".join(entry.manufacturer for entry in found)
        raise InputError(f"{wanted} is {f'made by {makers}' if found else 'not in the catalogue'}; name another number")
    taken = take_entry(
        bundle, found[0], library.settings, learned_names(library, bundle.part.category), address,
        TakingChoice(replace, prices),
    )  # fmt: skip
    new = [name for name, made in taken.bundle.part.facts.items() if made != bundle.part.facts.get(name)]
    if new:
        save_evaluated(library, taken.bundle)
    facts = {name: taken.bundle.part.facts[name].value for name in new}
    lines = [*(f"{name}: {value}" for name, value in facts.items()), *taken.told]
    finish({"item": item, "facts": facts, "told": taken.told}, [*lines, f"{counted(len(new), 'fact')} copied"], as_json)


@catalogue.command("refresh")
@library_argument
@click.argument("words", nargs=-1)
@_ADDRESS
@_TOKEN
@click.option("--keep", is_flag=True, help="Make working copies of the parts whose lifecycle changed.")
@json_option
def refresh(folder: Path, words: tuple[str, ...], address: str, token: str, keep: bool, as_json: bool) -> None:
    """Ask for lifecycle and stock of the parts that are found, and print what changed."""
    library = opened_library(folder)
    address = address or library.settings.catalogue
    rows = library.find_parts(" ".join(words)).rows
    with shown_progress() as task:
        service = open_catalogue(address, token, task)
        report = refresh_standing(library, service, address, rows, preferred_suppliers(library), task)
        kept = keep_lifecycles(library, report, address, library.person().name, task) if keep else None
    lines = [f"{c.part}: {c.kind}: {c.before or '(not known)'} → {c.now}" for c in report.changes]
    lines.append(f"{counted(report.asked, 'part')} asked for, {report.unchanged} unchanged")
    data = {**to_data(report), "kept": kept.kept if kept else [], "left": dict(kept.left) if kept else {}}
    if kept:
        lines += [f"{part} was skipped: {why}" for part, why in kept.left]
        lines.append(f"{counted(len(kept.kept), 'working copy', 'working copies')} saved")
    finish(data, lines, as_json)


@catalogue.command("alternates")
@library_argument
@click.argument("item")
@_ADDRESS
@_TOKEN
@click.option("--offline", is_flag=True, help="Parts of the library alone.")
@json_option
def alternates(folder: Path, item: str, address: str, token: str, offline: bool, as_json: bool) -> None:
    """Find parts of the library and of suppliers that could stand in for one."""
    library = opened_library(folder)
    bundle = library.load(library.find(item).id)
    address = address or library.settings.catalogue
    with shown_progress() as task:
        service = None if offline else open_catalogue(address, token, task)
        found = find_alternates(library, bundle, service)
    lines = [
        f"{a.name}, {a.manufacturer or 'manufacturer not known'} ({a.source}), land pattern {a.pattern}: "
        + ("; ".join(f"{d.name} {d.theirs or '(none)'} in place of {d.mine or '(none)'}" for d in a.differs) or "same")
        for a in found
    ]
    data = {"alternates": [{**a._asdict(), "differs": [d._asdict() for d in a.differs]} for a in found]}
    finish(data, [*lines, counted(len(found), "alternate")], as_json)
