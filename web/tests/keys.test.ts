import { expect, test } from "vitest";
import { keyName } from "../src/parts/keys";

const pressed = (key: string, more: Partial<KeyboardEvent> = {}) =>
  keyName({
    key,
    code: "",
    ctrlKey: false,
    metaKey: false,
    altKey: false,
    shiftKey: false,
    ...more,
  } as KeyboardEvent);

test("keys are called by what they do, whatever Alt makes of a letter", () => {
  expect([pressed("n"), pressed("N", { shiftKey: true }), pressed("Escape")]).toEqual(["n", "n", "escape"]);
  expect(pressed("s", { ctrlKey: true })).toBe("Ctrl+s");
  expect(pressed("ArrowUp", { altKey: true, shiftKey: true })).toBe("Alt+Shift+up");
  expect(pressed("p", { altKey: true, code: "KeyR" })).toBe("Alt+p");
  expect(pressed("\u03c0", { altKey: true, code: "KeyP" })).toBe("Alt+p");
  expect(pressed("\u00b9", { altKey: true, code: "Digit1" })).toBe("Alt+1");
});
