// Two people on one pot: what each changed against the version both began from, put together line by line.

import type { Line, Recipe, Serving, Stage } from "../../api/client";

const same = (one: unknown, other: unknown) => JSON.stringify(one ?? null) === JSON.stringify(other ?? null);

export interface Merged {
  recipe: Recipe;
  /** What both changed, and otherwise: mine holds there. */
  both: string[];
  /** What comes in from them, in words. */
  taken: string[];
}

/** A part that both may have changed: theirs where I left it, else mine. Both have it where nobody had it before. */
function part<T>(base: T | undefined, mine: T, theirs: T, what: string, told: Merged): T {
  if (same(mine, theirs) || same(base, theirs)) return mine;
  if (same(base, mine)) {
    told.taken.push(what);
    return theirs;
  }
  told.both.push(what);
  return mine;
}

/** A thing of many parts: each by itself. */
function parts<T extends object>(
  base: Partial<T>,
  mine: T,
  theirs: T,
  what: string,
  but: (keyof T)[],
  told: Merged,
): T {
  const merged = { ...mine };
  for (const key of Object.keys({ ...mine, ...theirs }) as (keyof T)[]) {
    if (but.includes(key)) continue;
    merged[key] = part<T[keyof T]>(
      base[key],
      mine[key],
      theirs[key],
      `${what}: ${String(key).replaceAll("_", " ")}`,
      told,
    );
  }
  return merged;
}

/** A list of things that are known by a key: what they added, took out and changed comes in where I left it. */
function listed<T>(
  [base, mine, theirs]: readonly [readonly T[], readonly T[], readonly T[]],
  keyOf: (one: T, place: number, all: readonly T[]) => string,
  merge: (base: T | undefined, mine: T, theirs: T) => T,
  name: (one: T) => string,
  told: Merged,
): T[] {
  const byKey = (all: readonly T[]) => new Map(all.map((one, place) => [keyOf(one, place, all), one]));
  const [was, now, other] = [byKey(base), byKey(mine), byKey(theirs)];
  const found: [string, T][] = [];
  for (const [key, one] of now) {
    const before = was.get(key);
    const their = other.get(key);
    if (their !== undefined) found.push([key, merge(before, one, their)]);
    else if (before === undefined) found.push([key, one]);
    else if (same(before, one)) told.taken.push(`${name(one)} taken out`);
    else {
      told.both.push(`${name(one)}, which they took out`);
      found.push([key, one]);
    }
  }
  const order = [...other.keys()];
  for (const [key, one] of other) {
    if (now.has(key)) continue;
    const before = was.get(key);
    if (before !== undefined) {
      // I took it out: that holds, but what they changed of it is told.
      if (!same(before, one)) told.both.push(`${name(one)}, which you took out`);
      continue;
    }
    told.taken.push(`${name(one)} added`);
    const above = order.slice(0, order.indexOf(key)).reverse();
    const behind = above.find((one) => found.some(([known]) => known === one));
    const place = behind === undefined ? 0 : found.findIndex(([known]) => known === behind) + 1;
    found.splice(place, 0, [key, one]);
  }
  return found.map(([, one]) => one);
}

const called = (line: Line) => [line.quantity, line.byproduct ?? line.item ?? line.recipe].join(" ");

/** A line is known by what it is of, and the how manieth of that it is. */
function lineKey(line: Line, place: number, all: readonly Line[]): string {
  const of = (one: Line) => `${one.item}/${one.recipe}/${one.byproduct}`;
  return `${of(line)}/${all.slice(0, place).filter((one) => of(one) === of(line)).length}`;
}

/** My changes and theirs together. Where both changed the same, mine holds and `both` names it. */
export function threeWay(base: Recipe, mine: Recipe, theirs: Recipe): Merged {
  const told: Merged = { recipe: mine, both: [], taken: [] };
  const stage = (was: Stage | undefined, my: Stage, their: Stage): Stage => {
    const name = my.name ?? my.id;
    const lines = listed(
      [was?.lines ?? [], my.lines, their.lines],
      lineKey,
      (b, m, t) => part(b, m, t, `${name}: ${called(t)}`, told),
      (line) => `${name}: ${called(line)}`,
      told,
    );
    return { ...parts(was ?? {}, my, their, name, ["id", "lines"], told), lines };
  };
  const serving = (was: Serving | undefined, my: Serving, their: Serving): Serving =>
    parts(was ?? {}, my, their, my.name, ["id"], told);
  const id = (one: { id: string }) => one.id;
  told.recipe = {
    ...parts(base, mine, theirs, "the pot", ["id", "stages", "servings"], told),
    stages: listed([base.stages, mine.stages, theirs.stages], id, stage, (one) => one.name ?? one.id, told),
    servings: listed([base.servings, mine.servings, theirs.servings], id, serving, (one) => one.name, told),
  };
  return told;
}
