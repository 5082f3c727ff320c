// Keyboard: shortcuts that keep out of the way of typing.

import { useEffect, useRef } from "react";

export type Keys = Record<string, (event: KeyboardEvent) => void>;

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

const ARROWS: Record<string, string> = { ArrowUp: "up", ArrowDown: "down", Escape: "escape" };

/** "Ctrl+s", "Alt+up", "n": the name of a pressed key with its modifiers. */
export function keyName(event: KeyboardEvent | React.KeyboardEvent): string {
  const modifiers = `${event.ctrlKey || event.metaKey ? "Ctrl+" : ""}${event.altKey ? "Alt+" : ""}${event.shiftKey && event.key.length > 1 ? "Shift+" : ""}`;
  // On some keyboards Alt makes another letter of it: there the place of the key counts.
  const other = event.altKey && event.key.length === 1 && event.key > "~";
  const key = other ? event.code.replace(/^(Key|Digit)/, "") : event.key;
  return modifiers + (ARROWS[key] ?? (key.length === 1 ? key.toLowerCase() : key));
}

/** Shortcuts of a screen. Single letters do nothing while somebody types, nor while a dialog is open; Escape from within a
 * field is called "field+escape".
 */
export function useKeys(keys: Keys): void {
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const key = keyName(event);
      const dialog = document.querySelector("dialog[open]") !== null;
      const name = key === "escape" && isTyping(event.target) && !dialog ? "field+escape" : key;
      const act = latest.current[name];
      if (!act || event.defaultPrevented) return;
      const plain = !name.includes("+");
      if (plain && (isTyping(event.target) || dialog)) return;
      event.preventDefault();
      act(event);
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}

/** The place of the focused element among those that a selector finds in a list; -1 where it is none of them. */
export function placeIn(list: HTMLElement | null, selector: string): number {
  return [...(list?.querySelectorAll(selector) ?? [])].indexOf(document.activeElement ?? document.body);
}

/** Move the focus up or down such a list; it begins at the top. */
export function walk(list: HTMLElement | null, selector: string, step: number): void {
  const all = list?.querySelectorAll<HTMLElement>(selector);
  if (!all) return;
  all[Math.max(0, Math.min(all.length - 1, placeIn(list, selector) + step))]?.focus();
}

/** Escape folds up again what was unfolded around the place where one is. */
export function useFolding(): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key !== "Escape" || !(event.target instanceof Element)) return;
      const open = event.target.closest<HTMLDetailsElement>("details[open]");
      // A list of choices within it closes first.
      if (!open || event.target.matches("[role=combobox]")) return;
      event.preventDefault();
      open.open = false;
      open.querySelector("summary")?.focus();
    };
    // Before the room, which would be left by the same key.
    document.addEventListener("keydown", listen, { capture: true });
    return () => document.removeEventListener("keydown", listen, { capture: true });
  }, []);
}
