"""The Larder screen: every ingredient, changed or added, and the doughs that it changes."""

from typing import Annotated

from pydantic import Field

from finebatch.core.larder.ingredient import Ingredient, NaturalUnit, Role
from finebatch.core.measures.units import CountUnit
from finebatch.facts import tables
from finebatch.web import routing
from finebatch.web.deps import Data, Now
from finebatch.web.types import Out, Text, ValueBody
from finebatch.workflow.dough import larder_effects as work
from finebatch.workflow.kitchen import larder as store
from finebatch.workflow.kitchen.thrown import Thrown, told

router = routing.begin("larder", "/api/larder")

Percent = Annotated[float, Field(ge=0, le=100)]
CupGrams = Annotated[float, Field(gt=0, le=1000)]
Word = Annotated[Text, Field(min_length=1, max_length=40)]
Key = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[a-z0-9_]+$")]


class NaturalUnitBody(ValueBody):
    """What one of it is called and weighs."""

    unit: CountUnit
    name: Annotated[Text, Field(max_length=40)]
    grams: Annotated[float, Field(gt=0, le=5000)]


class FactsBody(ValueBody):
    """What is known of an ingredient: percent of mass, grams a US cup."""

    name: Annotated[Text, Field(min_length=1, max_length=60)]
    role: Role
    water_pct: Percent
    fat_pct: Percent
    sugar_pct: Percent
    other_solids_pct: Percent
    water_binding: Annotated[float, Field(ge=0, le=10)]
    g_per_cup: CupGrams
    g_per_cup_sifted: CupGrams | None = None
    g_per_cup_dipped: CupGrams | None = None
    natural_unit: NaturalUnitBody | None = None
    melts_at_c: Annotated[float, Field(ge=-60, le=200)] | None = None
    allergens: Annotated[list[Word], Field(max_length=20)] = []
    traits: Annotated[list[Word], Field(max_length=10)] = []
    source: Annotated[Text, Field(max_length=300)] = ""

    def ingredient(self, key: str) -> Ingredient:
        """The core's ingredient."""
        plain = self.model_dump(exclude={"natural_unit", "allergens", "traits"})
        natural = self.natural_unit
        return Ingredient(
            **{**plain, "source": self.source.strip() or "the baker's own figures"},
            key=key,
            natural_unit=NaturalUnit(natural.unit, natural.name, natural.grams)
            if natural
            else None,
            allergens=tuple(dict.fromkeys(self.allergens)),
            traits=frozenset(self.traits),
        )


class ShelfOut(Out):
    """One ingredient on the shelf: its figures, whether they are the baker's, how it is used."""

    key: str
    facts: FactsBody
    own: bool
    added: bool
    made_of: list[str]
    doughs: int


def _facts(ingredient: Ingredient) -> FactsBody:
    fields = {name: getattr(ingredient, name) for name in FactsBody.model_fields}
    natural = ingredient.natural_unit
    return FactsBody.model_validate(
        {
            **fields,
            "allergens": list(ingredient.allergens),
            "traits": sorted(ingredient.traits),
            "natural_unit": NaturalUnitBody.model_validate(natural) if natural else None,
        }
    )


def _shelf(ingredient: Ingredient, own: bool, doughs: int) -> ShelfOut:
    shipped = ingredient.key in tables.larder()
    return ShelfOut(
        key=ingredient.key,
        facts=_facts(ingredient),
        own=own,
        added=not shipped,
        made_of=[f"{100 * share:g} % {key}" for key, share in ingredient.made_of],
        doughs=doughs,
    )


@router.get("")
def all_ingredients(data: Data) -> list[ShelfOut]:
    """Every ingredient, with how many doughs use it."""
    with data.reading() as session:
        own = store.own_ingredients(session)
        counts = work.use_counts(session)
        return [
            _shelf(i, i.key in own, counts.get(i.key, 0))
            for i in store.get_larder(session).values()
        ]


@router.post("", status_code=201)
def add_ingredient(body: FactsBody, data: Data) -> ShelfOut:
    """Add an ingredient."""
    with data.writing() as session:
        return _shelf(store.put_ingredient(session, body.ingredient("")), True, 0)


@router.put("/{key}")
def change_ingredient(key: Key, body: FactsBody, data: Data) -> ShelfOut:
    """Change an ingredient's figures for this kitchen."""
    with data.writing() as session:
        kept = store.put_ingredient(session, body.ingredient(key))
        return _shelf(kept, True, len(store.uses(session, key)))


class ResetOut(Out):
    """What went into the bin, and the shipped figures that stand in its place, where there are."""

    thrown: Thrown
    shelf: ShelfOut | None


@router.delete("/{key}")
def reset_ingredient(key: Key, data: Data, now: Now) -> ResetOut:
    """Back to the shipped figures; one of the baker's own goes into the bin, and so do figures that
    were changed."""
    with data.writing() as session:
        thrown = told(store.reset_ingredient(session, key, now))
        shipped = tables.larder().get(key)
        shelf = _shelf(shipped, False, len(store.uses(session, key))) if shipped else None
        return ResetOut(thrown=thrown, shelf=shelf)


@router.post("/{key}/effects")
def effects_of(key: Key, body: FactsBody, data: Data) -> list[work.LarderEffect]:
    """What these figures would change in the doughs that use it; keeps nothing."""
    with data.reading() as session:
        return work.effects_of(session, body.ingredient(key))
