// Lists with one of their places changed.

/** A list with the one at a place changed. */
export function replacedAt<T>(list: readonly T[], place: number, change: (one: T) => T): T[] {
  return list.map((one, at) => (at === place ? change(one) : one));
}

/** A list without the one at a place. */
export function withoutPlace<T>(list: readonly T[], place: number): T[] {
  return list.filter((_, at) => at !== place);
}
