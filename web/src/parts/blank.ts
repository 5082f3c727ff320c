// New parts of a recipe, with the defaults of the kitchen document.

import type { Change, Line, Recipe, Serving, Stage, TakeOut } from "../api/client";

export const KEEP: Change = {
  rule: "keep",
  yield: null,
  per_hour: null,
  kg_per_hour: null,
  to: null,
  with: null,
  by: null,
};

export function newLine(quantity: string, uses: { item?: string; recipe?: string }): Line {
  return {
    quantity,
    item: uses.item ?? null,
    recipe: uses.recipe ?? null,
    id: null,
    basis: "AP",
    preparation: null,
    cook_yield: null,
    taken_by: "1",
    by_eye: null,
  };
}

export function newStage(id: string, from: string | undefined): Stage {
  return {
    id,
    name: null,
    method: "simmer",
    vessel: null,
    lid: null,
    temperature_c: null,
    minutes: null,
    attended_minutes: "0",
    energy_kwh: null,
    from: from ? [{ stage: from, share: "1" }] : [],
    lines: [],
    change: KEEP,
    take_out: [],
    residue: "0",
    note: null,
    heat: null,
    power_share: null,
    fat_layer: false,
    start_c: null,
    open_minutes: null,
    flamed: false,
    in_oven: false,
    came_out: null,
    roux: null,
  };
}

export function newTakeOut(): TakeOut {
  return {
    name: "skimmed fat",
    mass: "100 g",
    of: [],
    spent_factor: null,
    value_per_kg: "0",
    use: null,
    dry: null,
    assumed: false,
  };
}

export function newServing(id: string, name: string, size: string): Serving {
  return {
    id,
    name,
    size,
    garnish: [],
    accompaniments: [],
    packaging: [],
    portioning_seconds: "0",
    pricing: null,
    commission: "0",
    price: null,
    price_set_on: null,
    hold_hours: null,
    hold_vessel: null,
    hold_lid: null,
    hold_c: "75",
    channels: [],
    add_ons: [],
  };
}

export function newRecipe(id: string, name: string): Recipe {
  return {
    id,
    name,
    density: "1",
    stages: [newStage("pot", undefined)],
    servings: [newServing("bowl", "Bowl", "300 ml")],
    seasoning_allowance: null,
    measured_yield: null,
    use_measured_yield: false,
    written_yield: null,
    note: null,
    allowance_covers: [],
    consumables: [],
    prep_minutes: false,
    pricings: [],
  };
}
