// A yield of an item, of a preparation as of a way of cooking it: its value with its band, and what that rests on.

import { useFormContext } from "react-hook-form";
import { orNull } from "../../parts/kit/Field";
import { SmallField } from "../../parts/Small";
import { type ItemValues, writtenOver, type YieldPath } from "./itemValues";

interface Props {
  path: YieldPath;
}

/** The yield and its band; whoever types another one takes it off the tests it rested on. */
export function YieldBand({ path }: Props) {
  const { register, getValues, setValue } = useFormContext<ItemValues>();
  const over = () => writtenOver(path, getValues(`${path}.provenance`), setValue);
  return (
    <>
      <SmallField label="yields" width="w-14" {...register(`${path}.yield`, { onChange: over })} />
      <SmallField label="low" width="w-12" {...register(`${path}.low`, orNull)} />
      <SmallField label="high" width="w-12" {...register(`${path}.high`, orNull)} />
    </>
  );
}

/** Where it is from, and what it rests on. */
export function YieldSource({ path }: Props) {
  const { register, watch, setValue } = useFormContext<ItemValues>();
  return (
    <>
      <SmallField
        label="from"
        width="w-40"
        hint="estimate"
        {...register(`${path}.source`, { ...orNull, onChange: () => setValue(`${path}.provenance`, null) })}
      />
      <RestsOn provenance={watch(`${path}.provenance`)} />
    </>
  );
}

/** What a yield rests on, where that is told by more than its source. */
function RestsOn({ provenance }: { provenance: ItemValues["cooking"][number]["provenance"] }) {
  if (!provenance) return null;
  const { sort, tests, on, book } = provenance;
  const words = {
    book: "a book",
    own_tests: `own tests${tests ? `, ${tests} to ${on}` : ""}`,
    estimate: "an estimate",
    blend: `own tests${tests ? `, ${tests} to ${on}` : ""}, leaning on ${book ?? "a book"}`,
    logs: `the logs${on ? ` to ${on}` : ""}`,
  }[sort];
  return <span className="quiet">rests on {words}</span>;
}
