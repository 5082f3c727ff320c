// What a typed filter finds: texts that hold every word of it, in any order and case.

/** Whether a text holds all typed words; everything does where nothing is typed. */
export function finder(typed: string): (text: string) => boolean {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return (text) => {
    const lower = text.toLowerCase();
    return words.every((word) => lower.includes(word));
  };
}
