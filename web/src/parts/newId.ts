// The id of something that begins in the browser: sent twice over a bad line, it is recorded once.

export const newId = (what: string) => `${what}-${crypto.getRandomValues(new Uint32Array(3)).join("-")}`;
