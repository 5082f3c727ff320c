"""What is done with the kitchen itself: its settings, vessels and suppliers, and what is wrong with its data."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.kitchen.checks import refuse_twice
from potrel.core.kitchen.integrity import check_settings, known_units
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Currency, Name
from potrel.core.kitchen.settings import Settings
from potrel.core.kitchen.supply import Supplier
from potrel.core.kitchen.vessels import LearnedRate, Vessel
from potrel.core.sentences import say
from potrel.doing.kitchens import Kitchens
from potrel.store.errors import NotFound, StaleSettings, StaleSupplier
from potrel.store.faults import mend
from potrel.store.items import load_vessels, save_rates, save_vessels
from potrel.store.kitchens import load_settings, save_settings
from potrel.store.suppliers import load_suppliers, update_supplier


@dataclass(frozen=True, slots=True)
class SaveKitchen(Keyed):
    """New settings, with those that they replace; the name and currency too, where they are said."""

    name: Name
    currency: Currency
    settings: Settings
    was: Settings
    was_name: Name | None = None
    was_currency: Currency | None = None
    vessels: list[Vessel] | None = None
    was_vessels: list[Vessel] | None = None
    suppliers: list[Supplier] | None = None
    were_suppliers: list[Supplier] | None = None


def save_kitchen(kitchens: Kitchens, save: SaveKitchen, by: str) -> None:
    """Change the kitchen's name, currency and settings, and its vessels and suppliers where they are given. StaleSettings,
    StaleSupplier where somebody changed any of it since; BadDocument where it takes away what is still used.
    """
    with kitchens.database.writing(by) as connection:
        name, currency, settings = load_settings(connection)
        if settings != save.was or save.was_name not in (None, name) or save.was_currency not in (None, currency):
            raise StaleSettings
        seen = kitchens.seen_by(connection).costing
        check_settings(save.settings, seen.view.items, known_units(seen.view.kitchen.items))
        _refuse_used_channels(seen, save.settings)
        save_settings(connection, save.name, save.currency, save.settings)
        if save.vessels is not None:
            if save.was_vessels is not None and tuple(save.was_vessels) != load_vessels(connection):
                raise StaleSettings
            _refuse_used(kitchens.seen_by(connection).costing, save.vessels)
            save_vessels(connection, save.vessels)
        known = {one.id: one for one in load_suppliers(connection)}
        if [one.id for one in save.suppliers or ()] != [one.id for one in save.were_suppliers or ()]:
            english = "say of each supplier what it was when the change began"
            raise BadDocument("were_suppliers", say("were_suppliers", english))
        for supplier, was in zip(save.suppliers or (), save.were_suppliers or (), strict=True):
            if known.get(supplier.id) != was:
                raise StaleSupplier(was.name)
            update_supplier(connection, supplier)


def keep_rate(kitchens: Kitchens, vessel_id: str, rate: LearnedRate, by: str) -> Vessel:
    """Keep what came out of a vessel for the next time: it goes before physics. NotFound where there is no such vessel."""
    with kitchens.database.writing(by) as connection:
        vessel = next((one for one in load_vessels(connection) if one.id == vessel_id), None)
        if vessel is None:
            raise NotFound("vessel", vessel_id)
        others = tuple(one for one in vessel.rates if (one.lid, one.heat, one.on) != (rate.lid, rate.heat, rate.on))
        vessel = replace(vessel, rates=(*others, rate))
        save_rates(connection, vessel)
    return vessel


def mend_fault(kitchens: Kitchens, sort: str, fault_id: str, by: str) -> None:
    """Mend what the database says and nobody can understand. NotFound where there is no such fault."""
    with kitchens.database.writing(by) as connection:
        found = (one for one in kitchens.seen_by(connection).faults if (one.sort, one.id) == (sort, fault_id))
        fault = next(found, None)
        if fault is None:
            raise NotFound(sort, fault_id)
        mend(connection, fault, by)


def _refuse_used(costing: Costing, vessels: Sequence[Vessel]) -> None:
    """BadDocument where a vessel is taken out that a recipe still cooks in."""
    refuse_twice("vessel", (one.id for one in vessels))
    kept = {one.id for one in vessels}
    for recipe in costing.view.recipes.values():
        for stage in recipe.stages:
            if stage.vessel is not None and stage.vessel not in kept:
                vessel = costing.view.vessels[stage.vessel].name if stage.vessel in costing.view.vessels else stage.vessel
                english = "{recipe} cooks in {vessel}: choose another vessel there first"
                raise BadDocument("vessels", say("vessel_used", english, recipe=recipe.name, vessel=vessel))


def _refuse_used_channels(costing: Costing, settings: Settings) -> None:
    """BadDocument where a channel is taken out in which something is still sold."""
    kept = {channel.id for channel in settings.channels}
    channels, deals = costing.view.channels, costing.view.kitchen.deals
    recipes = costing.view.recipes.values()
    servings = [(recipe, serving) for recipe in recipes for serving in recipe.servings]
    sold = [(f"{recipe.name}, {serving.name}", one.channel) for recipe, serving in servings for one in serving.channels]
    sold += [(deal.name, deal.channel) for deal in deals if deal.channel is not None]
    for name, channel in sold:
        if channel not in kept:
            english = "{name} is still sold by {channel}: take it out there first"
            called = channels[channel].name if channel in channels else channel
            raise BadDocument("channels", say("channel_used", english, name=name, channel=called))
