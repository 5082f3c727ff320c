// What is being typed, kept in the tab's own storage until it is sent: a reload loses nothing.

import { useEffect, useState } from "react";
import { ofTab } from "./browserStore";

/** A text that outlives a reload of the page. An empty key keeps nothing. */
export function useKeptText(key: string, start = ""): [string, (text: string) => void] {
  const name = `potrel:typed:${key}`;
  const [text, setText] = useState(() => ofTab.get(name) ?? start);
  useEffect(() => {
    if (text === start) ofTab.drop(name);
    else ofTab.put(name, text);
  }, [name, text, start]);
  return [text, setText];
}
