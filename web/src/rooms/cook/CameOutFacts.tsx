// Where a stage should stand in its vessel, what came out of it instead, and what that says of the vessel.

import { useQueryClient } from "@tanstack/react-query";
import { refreshAll } from "../../api/asked";
import { api, type Heat, inWords, type SheetStage, type Stage, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { heatInWords, type Lid, lidInWords } from "../../parts/cooked";
import { Figure } from "../../parts/Figure";
import { depth, kilos, mass, volume } from "../../parts/format";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";
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
          {vessel && stage.change.by === "vessel" && Number(sheet.measured_kg_per_hour) > 0 && (
            <Keep stage={stage} vessel={vessel} rate={sheet.measured_kg_per_hour} />
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
}

/** What came out says what this vessel steams, under its lid and at its heat: what of them nobody has said is asked first. */
function Keep({ stage, vessel, rate }: KeepProps) {
  const { lid, heat } = stage;
  if (lid && heat)
    return <KeepRate vessel={vessel} kept={{ heat, lid, on: stage.came_out?.on ?? "" }} rate={rate} />;
  // What is kept is kept by a heat: an oven, or a pot at a temperature, has none to say.
  if (!heat && (stage.in_oven || stage.temperature_c)) return null;
  const asked = [!lid && "lid", !heat && "heat"].filter(Boolean).join(" and its ");
  return (
    <span className="quiet">
      (say its {asked} to keep this for the {vessel.name})
    </span>
  );
}

interface KeepRateProps extends Omit<KeepProps, "stage"> {
  kept: { heat: Heat; lid: Lid; on: string };
}

/** Kept, what it steamed goes before physics the next time. */
function KeepRate({ vessel, kept: { heat, lid, on }, rate }: KeepRateProps) {
  const client = useQueryClient();
  const toast = useToast();
  const words = `${vessel.name}, ${lidInWords(lid)}, ${heatInWords(heat)}`;
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
