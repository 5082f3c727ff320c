// Paper: what stands in the margins of each page, and ink that can be read on white.

import { useEffect } from "react";

/** A text of a style sheet, whatever a kitchen is called. */
const quoted = (text: string) =>
  `"${text.replace(/["\\\n]/g, (sign) => `\\${sign.charCodeAt(0).toString(16)} `)}"`;

/** Heads every printed page with the kitchen and what its prices are of, and numbers it. */
export function usePageHeads(kitchen: string, prices: string): void {
  useEffect(() => {
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(`@page {
      @top-left { content: ${quoted(kitchen)}; }
      @top-right { content: ${quoted(prices)}; }
      @bottom-right { content: "page " counter(page) " of " counter(pages); }
    }`);
    document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
    return () => {
      document.adoptedStyleSheets = document.adoptedStyleSheets.filter((one) => one !== sheet);
    };
  }, [kitchen, prices]);
}

/** While a page is printed, the theme of the day counts: light ink of the night is lost on white paper. */
export function useDayOnPaper(theme: string): void {
  useEffect(() => {
    const root = document.documentElement;
    const begin = () => {
      root.dataset.theme = "enamel";
    };
    const end = () => {
      root.dataset.theme = theme;
    };
    window.addEventListener("beforeprint", begin);
    window.addEventListener("afterprint", end);
    return () => {
      window.removeEventListener("beforeprint", begin);
      window.removeEventListener("afterprint", end);
    };
  }, [theme]);
}
