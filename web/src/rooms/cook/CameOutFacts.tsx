// Where a stage should stand in its vessel, what came out of it instead, and what that says of the vessel.

import { useQueryClient } from "@tanstack/react-query";
import { refreshAll } from "../../api/asked";
import { api, inWords, type SheetStage, type Stage, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { Figure } from "../../parts/Figure";
import { depth, kilos, mass, volume } from "../../parts/format";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";
import { HEATS } from "./StageHeat";
import { usePot } from "./usePot";

export function CameOutFacts({ sheet, stage }: { sheet: SheetStage; stage: Stage }) {
  const { state } = usePot();
  const kitchen = useKitchen();
  const vessel = kitchen.data?.vessels.find((one) => one.id === stage.vessel);
  if (sheet.came_out_g === null && sheet.dipstick_cm === null) return null;
  const ask = (name: string) => ({
    figure: `stage/${stage.id}/${name}`,
    recipe: state.recipe.id,
    draft: state.recipe,
  });
  return (
    <>
      <span>
        {sheet.came_out_g !== null && <b>came out {mass(sheet.came_out_g)}; </b>}
        <span className="quiet">should come to</span> {volume(sheet.reckoned_ml)}
        {sheet.came_out_g !== null && `, ${mass(sheet.reckoned_g)}`}
        {sheet.dipstick_cm !== null && (
          <>
            {", "}
            <Figure
              ask={ask("dipstick_cm")}
              text={depth(sheet.dipstick_cm)}
              label="depth in its vessel"
              stop={false}
            />{" "}
            <span className="quiet">on the stick in the {vessel?.name}</span>
          </>
        )}
      </span>
      {sheet.measured_kg_per_hour !== null && (
        <span>
          it steamed{" "}
          <Figure
            ask={ask("measured_kg_per_hour")}
            text={`${kilos(sheet.measured_kg_per_hour)} an hour`}
            label="what it steamed, by what came out"
            stop={false}
          />{" "}
          {vessel && stage.heat && stage.change.by === "vessel" && Number(sheet.measured_kg_per_hour) > 0 && (
            <Keep stage={stage} vessel={vessel} rate={sheet.measured_kg_per_hour} heat={stage.heat} />
          )}
        </span>
      )}
    </>
  );
}

interface KeepProps {
  stage: Stage;
  vessel: { id: string; name: string; rates: readonly { heat: string; lid: string; on: string }[] };
  rate: string;
  heat: NonNullable<Stage["heat"]>;
}

/** What came out says what this vessel steams: kept, it goes before physics the next time. */
function Keep({ stage, vessel, rate, heat }: KeepProps) {
  const client = useQueryClient();
  const toast = useToast();
  const lid = stage.lid ?? "off";
  const on = stage.came_out?.on ?? "";
  const words = `${vessel.name}, lid ${lid.replaceAll("_", " ")}, ${HEATS.find(([key]) => key === heat)?.[1] ?? heat}`;
  const save = useSaving({
    mutationFn: () =>
      told(
        api.POST("/api/vessels/{vessel_id}/rates", {
          params: { path: { vessel_id: vessel.id } },
          body: { heat, lid, on, kg_per_hour: rate },
        }),
      ),
    onSuccess: async () => {
      await refreshAll(client);
      toast(`Kept for ${words}`);
    },
    onError: (error) => toast(inWords(error), { bad: true }),
  });
  const kept = vessel.rates.some((one) => one.heat === heat && one.lid === lid && one.on === on);
  if (kept) return <span className="quiet">(kept for {words})</span>;
  return (
    <button
      type="button"
      className="btn btn-xs no-print"
      disabled={save.isPending}
      onClick={() => save.mutate()}
    >
      Keep it for {words}
    </button>
  );
}
