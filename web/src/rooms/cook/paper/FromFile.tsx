// A recipe from a file or a saved page: what it holds is put down as a text, and understood like any other.

import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, inWords, type ReadPage, told } from "../../../api/client";

/** Whether a pasted text is a file or a page, and no recipe as it stands on paper. */
export const isForeign = (text: string): boolean =>
  /^[\uFEFF\s]*[[{]/.test(text) || /<(?:!doctype html|html|script|body)\b/i.test(text.slice(0, 5000));

type Foreign = ReadPage["recipes"][number];

export function useForeign(put: (recipe: Foreign) => void) {
  const [several, setSeveral] = useState<readonly Foreign[]>([]);
  const read = useMutation({
    // A file goes as it is: the server tells its letters.
    mutationFn: (page: string | File) =>
      told<ReadPage>(
        api.POST("/api/recipe-page", {
          body: "",
          bodySerializer: () => page,
          headers: { "Content-Type": "application/octet-stream" },
        }),
      ),
    onSuccess: ({ recipes }) => {
      const [first] = recipes;
      setSeveral(recipes.length > 1 ? recipes : []);
      if (recipes.length === 1 && first) put(first);
    },
  });
  return { read, several, choose: put, left: () => setSeveral([]) };
}

interface Props {
  foreign: ReturnType<typeof useForeign>;
  /** A file that is a plain text goes straight onto the paper. */
  setText: (text: string) => void;
  aside: readonly string[];
}

export function FromFile({ foreign, setText, aside }: Props) {
  const { read, several, choose } = foreign;
  return (
    <>
      <label className="quiet text-sm flex flex-wrap items-center gap-2 mt-2">
        or a file, or a page you saved
        <input
          type="file"
          className="file-input file-input-xs max-w-56"
          accept=".json,.jsonld,.html,.htm,.txt,.md"
          onChange={async (event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (!file) return;
            const text = await file.text();
            if (isForeign(text)) read.mutate(file);
            else setText(text);
          }}
        />
      </label>
      {read.isError && (
        <p role="alert" className="text-error text-sm mt-1">
          {inWords(read.error)}
        </p>
      )}
      {several.length > 0 && (
        <div className="mt-2">
          <p className="font-semibold text-sm">{several.length} recipes are in it. Which one?</p>
          <ul className="max-h-48 overflow-auto">
            {several.map((one, place) => (
              // Two may be called the same.
              // biome-ignore lint/suspicious/noArrayIndexKey: see above
              <li key={place}>
                <button type="button" className="link text-sm text-left" onClick={() => choose(one)}>
                  {one.name}
                </button>
              </li>
            ))}
          </ul>
        </div>
      )}
      {aside.length > 0 && (
        <p className="text-sm mt-1">Not taken over, there is no place for it: {aside.join(", ")}.</p>
      )}
    </>
  );
}
