// One's own save is never somebody else's: a save takes its answer as the new state before its button is free.

import { type UseMutationOptions, type UseMutationResult, useMutation } from "@tanstack/react-query";
import { useRef } from "react";

type Options<Data, Variables> = UseMutationOptions<Data, Error, Variables> & {
  /** What is said of one thing after the other is not to be lost: it waits for its turn. */
  queued?: boolean;
};

/** All saves of a page go one after the other. */
const IN_TURN = { id: "saving" };

/**
 * Saves something. What `onSuccess` and `onSettled` return is waited for: as long as what was saved is not read again, it is
 * under way. Until then a second press of the same key sends nothing, as it would send what the page knew before.
 */
export function useSaving<Data, Variables = void>({
  queued = false,
  ...options
}: Options<Data, Variables>): UseMutationResult<Data, Error, Variables> {
  const busy = useRef(false);
  const saving = useMutation<Data, Error, Variables>({
    scope: IN_TURN,
    ...options,
    onSettled: async (...args) => {
      try {
        await options.onSettled?.(...args);
      } finally {
        busy.current = false;
      }
    },
  });
  const mutate: typeof saving.mutate = (...args) => {
    if (busy.current && !queued) return;
    busy.current = true;
    saving.mutate(...args);
  };
  return { ...saving, mutate } as typeof saving;
}
