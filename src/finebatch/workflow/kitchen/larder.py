"""The larder of this kitchen: the shipped ingredients, with the baker's own over them."""

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from sqlalchemy import String, select, type_coerce
from sqlalchemy.orm import Session

from finebatch.core.formula.names import IngredientName, Names, split_words
from finebatch.core.formula.reading import Reader
from finebatch.core.larder.check import check_ingredient
from finebatch.core.larder.ingredient import Ingredient, Larder
from finebatch.core.larder.measuring import Measuring
from finebatch.core.refusal import refuse
from finebatch.facts import tables
from finebatch.store.bin import Root, throw
from finebatch.store.models import BinRow, DoughRow, OwnIngredientRow, OwnNameRow, SessionRow
from finebatch.store.once import again, once
from finebatch.workflow.errors import Conflict, Missing
from finebatch.workflow.kitchen.equipment import get_kitchen, measuring_of

MOST_WORDS = 12
MOST_OWN = 500
OWN = "own ingredients"


@dataclass(frozen=True, slots=True)
class Pantry:
    """What a dough is weighed with: the larder, and how this kitchen measures."""

    larder: Larder
    measuring: Measuring


def own_ingredients(session: Session) -> dict[str, Ingredient]:
    """The ingredients that the baker added or changed, by key."""
    return once(session, OWN, _read_own)


def _read_own(session: Session) -> dict[str, Ingredient]:
    rows = session.scalars(select(OwnIngredientRow).order_by(OwnIngredientRow.key))
    return {row.key: row.facts for row in rows}


def get_larder(session: Session) -> Larder:
    """All ingredients as this kitchen has them."""
    own = own_ingredients(session)
    return Larder({**tables.larder(), **own}) if own else tables.larder()


def get_pantry(session: Session) -> Pantry:
    """The larder and the measuring habits."""
    return Pantry(get_larder(session), measuring_of(get_kitchen(session)))


@lru_cache(maxsize=8)
def _names(own: tuple[tuple[str, str], ...]) -> Names:
    # Later names win: what the baker said goes over what is shipped.
    learnt = (IngredientName(tuple(words.split()), key, None) for words, key in own)
    return Names((*tables.names(), *learnt), tables.describing_words())


def get_reader(session: Session) -> Reader:
    """What reads cards in this kitchen, with the names that it was taught."""
    pantry = get_pantry(session)
    rows = session.scalars(select(OwnNameRow).order_by(OwnNameRow.words))
    taught = [(row.words, row.ingredient) for row in rows if row.ingredient in pantry.larder]
    added = [
        (" ".join(split_words(i.name)), key)
        for key, i in pantry.larder.items()
        if key not in tables.larder() and split_words(i.name)
    ]
    return Reader(pantry.larder, _names((*added, *taught)), pantry.measuring)


def _wanted_words(words: Sequence[str]) -> list[str]:
    describing = {word.casefold() for word in tables.describing_words()}
    return [word for word in words if word not in describing] or list(words)


def teach_name(session: Session, name: str, key: str) -> None:
    """Remember what this baker's cards call an ingredient.

    Raises `Refusal` when the name has no words or the larder lacks the ingredient.
    """
    get_larder(session).find(key, "ingredient")
    words = _wanted_words(split_words(name))[:MOST_WORDS]
    if not words:
        raise refuse("name", "There is no word in it to remember. Write what the card calls it.")
    session.merge(OwnNameRow(words=" ".join(words), ingredient=key))
    session.flush()


def _key_for(name: str, larder: Larder) -> str:
    """A key of its own for a new ingredient: ``own_stardust``."""
    words = re.findall(r"[a-z0-9]+", unicodedata.normalize("NFKD", name).casefold())
    base = "own_" + ("_".join(words)[:40] or "ingredient")
    key, number = base, 2
    while key in larder:
        key, number = f"{base}_{number}", number + 1
    return key


def put_ingredient(session: Session, ingredient: Ingredient) -> Ingredient:
    """Keep an ingredient: a new one when it has no key, else changed.

    Raises `Refusal` when it cannot be, or when the larder is full.
    """
    check_ingredient(ingredient)
    larder = get_larder(session)
    if not ingredient.key:
        if len(larder) - len(tables.larder()) >= MOST_OWN:
            raise refuse("name", f"The larder holds {MOST_OWN} of your own. Take one out first.")
        same = [i for i in larder.values() if i.name.casefold() == ingredient.name.casefold()]
        if same:
            raise refuse("name", "The larder has one of that name. Change that one instead.")
        ingredient = replace(ingredient, key=_key_for(ingredient.name, larder))
    elif ingredient.key not in larder:
        raise Missing("This ingredient")
    # What a mixture is made of is shipped with it; its figures follow from that.
    ingredient = replace(
        ingredient, made_of=larder[ingredient.key].made_of if ingredient.key in larder else ()
    )
    session.merge(OwnIngredientRow(key=ingredient.key, facts=ingredient))
    again(session, OWN)
    session.flush()
    return ingredient


def uses(session: Session, key: str) -> list[tuple[int, str]]:
    """The doughs that use an ingredient, by id and name, the latest first."""
    written = type_coerce(DoughRow.card, String)
    query = select(DoughRow.id, DoughRow.name).where(
        written.contains(f'"ingredient": "{key}"', autoescape=True)
    )
    rows = session.execute(query.order_by(DoughRow.changed_at.desc()))
    return [(row.id, row.name) for row in rows]


def reset_ingredient(session: Session, key: str, now: int) -> BinRow:
    """Back to the shipped figures; one of the baker's own is thrown away, with what it is called.

    Raises `Missing` when it is neither, and `Conflict` while a dough or a planned bake uses it.
    """
    row = session.get(OwnIngredientRow, key)
    if row is None:
        raise Missing("This change of an ingredient")
    roots: list[Root] = [("own_ingredient", "key", key)]
    if key not in tables.larder():
        using = uses(session, key)
        snapshots = type_coerce(SessionRow.snapshot, String)
        planned = session.scalar(
            select(SessionRow.id).where(snapshots.contains(f'"{key}"', autoescape=True)).limit(1)
        )
        if using or planned is not None:
            where = f"“{using[0][1]}” uses it" if using else "a bake in the book used it"
            raise Conflict(f"It stays: {where}. Take it out there first.")
        roots.append(("own_name", "ingredient", key))
    thrown = throw(session, roots, "ingredient", row.facts.name, now)
    again(session, OWN)
    return thrown
