// Sends a file to be read in, and follows the steps; it can be cancelled until it is done.

import type { ReadStep } from "../../../api/client";

export const LARGEST = 20 * 1024 * 1024;

/** The number of the list that came of a file; `step` is told how far it is. Throws with what is wrong in words. */
export async function readFile(
  file: File,
  step: (done: number) => void,
  signal: AbortSignal,
): Promise<ReadStep> {
  if (file.size > LARGEST) {
    throw new Error("The file is larger than 20 MB: is it a price list? Split it if so.");
  }
  const query = new URLSearchParams({ name: file.name.slice(0, 200) || "a file" });
  const answer = await fetch(`/api/price-lists?${query}`, {
    method: "POST",
    body: file,
    headers: { "Content-Type": "application/octet-stream" },
    signal,
  });
  if (!answer.ok || !answer.body) {
    const problem: unknown = await answer.json().catch(() => null);
    const detail =
      problem && typeof problem === "object" && "detail" in problem ? String(problem.detail) : "";
    throw new Error(detail || "The server does not answer: try again in a moment.");
  }
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
  let text = "";
  let last: ReadStep | null = null;
  for (;;) {
    const { value, done } = await reader.read();
    text += value ?? "";
    const lines = text.split("\n");
    text = lines.pop() ?? "";
    for (const line of lines) {
      last = JSON.parse(line) as ReadStep;
      if (last.problem) throw new Error(last.problem);
      step(Number(last.done));
    }
    if (done) break;
  }
  if (last?.number == null) throw new Error("The reading was broken off: nothing was kept. Try again.");
  return last;
}
