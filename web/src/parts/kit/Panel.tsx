// A sheet on the ground of a room: named, with a heading where it has one.

import type { ComponentProps, ReactNode } from "react";

interface Props extends Omit<ComponentProps<"section">, "title"> {
  /** Its name, for those who hear the page and for tests. */
  label: string;
  title?: ReactNode;
  /** Beside the heading. */
  beside?: ReactNode;
  look?: "roomy" | "tight";
}

export function Panel({ label, title, beside, look = "roomy", className = "", children, ...section }: Props) {
  return (
    <section
      aria-label={label}
      className={`sheet ${look === "tight" ? "p-3" : "p-4"} ${className}`}
      {...section}
    >
      {title !== undefined && (
        <div className="flex flex-wrap gap-x-5 items-baseline justify-between mb-1">
          <h2 className="font-semibold">{title}</h2>
          {beside}
        </div>
      )}
      {children}
    </section>
  );
}
