// The storages of a browser, for tests that have none.

function storageOf(kept: Map<string, string>) {
  return {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, text: string) => void kept.set(key, text),
    removeItem: (key: string) => void kept.delete(key),
    clear: () => kept.clear(),
    key: (at: number) => [...kept.keys()][at] ?? null,
    get length() {
      return kept.size;
    },
  };
}

export const storage = storageOf(new Map());
Object.assign(globalThis, { localStorage: storage, sessionStorage: storageOf(new Map()) });
