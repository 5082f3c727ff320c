// A table of data: named, its head in sight while it is scrolled, figures to the right.

import type { ReactNode, Ref } from "react";
import type { Virtual } from "./useVirtual";

export interface Head {
  /** What stands in the head; where it is `unseen`, only those who hear the table are told. */
  text: ReactNode;
  /** Said below it in small. */
  note?: ReactNode;
  key?: string;
  num?: boolean;
  unseen?: boolean;
  className?: string;
  sorted?: "ascending" | "descending" | "none";
}

interface Props {
  caption: ReactNode;
  heads: readonly (string | Head)[];
  /** A sheet of its own, rows in a panel, small ones in a narrow panel, or lines of a form. */
  look?: keyof typeof LOOKS;
  className?: string;
  body?: Ref<HTMLTableSectionElement>;
  /** Of a long list, the part that is on the page. */
  list?: Virtual;
  testid?: string;
  /** On a phone each row is a card. */
  cards?: boolean;
  /** The rows; where they are `grouped`, bodies of rows. */
  children: ReactNode;
  grouped?: boolean;
}

const LOOKS = {
  sheet: "table table-sm sheet board",
  rows: "table table-sm board",
  small: "table table-xs",
  plain: "",
};

export function Table({
  caption,
  heads,
  look = "sheet",
  className = "",
  body,
  list,
  testid,
  cards = false,
  children,
  grouped,
}: Props) {
  const table = (
    <table
      className={`${LOOKS[look]} ${className} ${cards ? "cards" : ""}`}
      data-testid={testid}
      aria-rowcount={list && list.to - list.from < list.count ? list.count + 1 : undefined}
    >
      <caption className="sr-only">{caption}</caption>
      {heads.length > 0 && (
        <thead className="heads">
          <tr>
            {heads.map((head, place) => (
              <HeadCell key={keyOf(head, place)} {...(typeof head === "string" ? { text: head } : head)} />
            ))}
          </tr>
        </thead>
      )}
      {grouped ? (
        children
      ) : (
        <tbody ref={list?.body ?? body}>
          <Gap height={list?.before} />
          {children}
          <Gap height={list?.after} />
        </tbody>
      )}
    </table>
  );
  // On a phone a wide table is moved sideways in its place; elsewhere its head stays in sight of the whole page.
  return <div className="wide">{table}</div>;
}

/** The room of the rows that are not on the page. */
function Gap({ height = 0 }: { height?: number | undefined }) {
  if (height <= 0) return null;
  return (
    <tr className="gap">
      <td style={{ height, padding: 0, border: 0 }} />
    </tr>
  );
}

const keyOf = (head: string | Head, place: number) =>
  typeof head === "string" ? head : (head.key ?? (typeof head.text === "string" ? head.text : String(place)));

function HeadCell({ text, note, num, unseen, className = "", sorted }: Head) {
  return (
    <th scope="col" className={`${num ? "num" : ""} ${className}`} aria-sort={sorted}>
      {unseen ? <span className="sr-only">{text}</span> : text}
      {note && <div className="quiet font-normal text-xs">{note}</div>}
    </th>
  );
}
