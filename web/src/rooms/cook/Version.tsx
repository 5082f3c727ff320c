// A version of a pot in lines of text, with what another has otherwise.

import type { Line, Recipe } from "../../api/client";
import { summary } from "./StageDetails";

const inText = (line: Line) =>
  [line.quantity, line.basis === "EP" ? "EP" : "", line.item ?? line.recipe, line.preparation]
    .flat()
    .filter(Boolean)
    .join(" ");

/** A version in lines of text: how each stage works, what goes into it, what each serving is. */
function inLines(recipe: Recipe): string[] {
  const stages = recipe.stages.flatMap((stage) => {
    const taken = stage.take_out.map(
      (one) =>
        `out: ${one.name} ${one.mass ?? `${one.spent_factor ?? "what is left"} of ${one.of.join(", ")}`}`,
    );
    const how = [summary(stage, recipe), stage.residue === "0" ? "" : `residue ${stage.residue}`, ...taken];
    return [
      `${stage.id}: ${how.filter(Boolean).join(" · ")}`,
      ...stage.lines.map((line) => `${stage.id}: ${inText(line)}`),
    ];
  });
  const servings = recipe.servings.map((serving) => {
    const beside = [...serving.garnish, ...serving.accompaniments, ...serving.packaging].map(inText);
    return [`${serving.name} ${serving.size}: ${serving.price ?? "no set price"}`, ...beside].join(" · ");
  });
  return [recipe.name, ...stages, ...servings];
}

/** A version; what the other has not, or has otherwise, is marked. */
export function Version({ title, recipe, other }: { title: string; recipe: Recipe; other: Recipe }) {
  const theirs = new Set(inLines(other));
  return (
    <div>
      <h3 className="font-semibold">{title}</h3>
      <ul className="text-sm">
        {[...new Set(inLines(recipe))].map((text) => (
          <li key={text} className={theirs.has(text) ? "quiet" : "font-semibold"}>
            {theirs.has(text) ? "" : "≠ "}
            {text}
          </li>
        ))}
      </ul>
    </div>
  );
}
