// Names a new pot and puts it on.

import { useQueryClient } from "@tanstack/react-query";
import { refresh } from "../api/asked";
import { api, told } from "../api/client";
import { NAMES } from "../api/kitchen";
import { newRecipe } from "./blank";
import { idFor } from "./format";
import { NameDialog } from "./NameDialog";
import { useSaving } from "./useSaving";

export function NewPot({ leave, made }: { leave: () => void; made: (id: string) => void }) {
  const client = useQueryClient();
  const add = useSaving({
    mutationFn: async (name: string) => {
      const names = await client.ensureQueryData(NAMES);
      const id = idFor(name, (one) => names.some((known) => known.id === one));
      await told(api.POST("/api/recipes", { body: { recipe: newRecipe(id, name) } }));
      return id;
    },
    onSuccess: async (id) => {
      await refresh(client, "recipe");
      made(id);
    },
  });
  return (
    <NameDialog
      title="A new pot"
      action="Put it on"
      error={add.error}
      busy={add.isPending}
      submit={add.mutate}
      leave={leave}
    />
  );
}
