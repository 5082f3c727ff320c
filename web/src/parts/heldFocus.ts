// Focus never falls to the page: where what had it is gone, what came into its place takes it, else the room.

import { useEffect } from "react";

/** An element and its place among those beside it; then the same of what holds it, and so on. */
type Path = { node: Element; at: number }[];

const FOCUSABLE =
  "a[href], button:not(:disabled), input:not(:disabled), select:not(:disabled), textarea, summary";

function pathOf(element: Element): Path {
  const path: Path = [];
  for (let node: Element | null = element; node && node.id !== "room"; node = node.parentElement)
    path.push({ node, at: [...(node.parentElement?.children ?? [])].indexOf(node) });
  return path;
}

const isThere = (node: Element) => node.isConnected && !node.matches(":disabled");
const isNowhere = () => document.activeElement === null || document.activeElement === document.body;

/** What stands where something stood that is gone; null where nothing near it can have the focus. */
function inItsPlace(path: Path): HTMLElement | null {
  // What is only shut for now, such as a button that was just pressed, is in nobody's place.
  if (path[0]?.node.isConnected) return null;
  const gone = path.findIndex(({ node }) => node.isConnected);
  if (gone < 1) return null;
  const holder = path[gone]?.node;
  const at = path[gone - 1]?.at ?? 0;
  const near = [...(holder?.children ?? [])];
  for (const one of [...near.slice(at), ...near.slice(0, at).reverse()]) {
    const found = one.matches(FOCUSABLE) ? one : one.querySelector(FOCUSABLE);
    if (found instanceof HTMLElement && found.checkVisibility()) return found;
  }
  return null;
}

export function useHeldFocus(): void {
  useEffect(() => {
    let path: Path = [];
    const took = (event: FocusEvent) => {
      path = event.target instanceof Element && event.target !== document.body ? pathOf(event.target) : [];
    };
    // Whoever clicks beside everything wants the focus nowhere.
    const letGo = ({ target }: FocusEvent) => {
      setTimeout(() => {
        if (isNowhere() && target instanceof Element && isThere(target)) path = [];
      });
    };
    const look = () => {
      const [last] = path;
      if (!last || isThere(last.node) || !isNowhere()) return;
      // A room that places it by itself comes first.
      requestAnimationFrame(() => {
        if (path[0] !== last || isThere(last.node) || !isNowhere() || document.querySelector("dialog[open]"))
          return;
        (inItsPlace(path) ?? document.getElementById("room"))?.focus();
      });
    };
    const seen = new MutationObserver(look);
    seen.observe(document.body, {
      childList: true,
      subtree: true,
      attributes: true,
      attributeFilter: ["disabled"],
    });
    document.addEventListener("focusin", took);
    document.addEventListener("focusout", letGo);
    return () => {
      seen.disconnect();
      document.removeEventListener("focusin", took);
      document.removeEventListener("focusout", letGo);
    };
  }, []);
}
