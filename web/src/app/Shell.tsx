// The frame of every room: the rooms in the order of the work, the kitchen, the day its prices are of.

import { lazy, Suspense, useCallback, useEffect, useState } from "react";
import { Link, NavLink, Outlet, useLocation } from "react-router";
import { inWords } from "../api/client";
import { useKitchen } from "../api/kitchen";
import { lasting, useStoreFull } from "../parts/browserStore";
import { CurrencyContext, type Question, WorkingContext } from "../parts/Figure";
import { day, dayOf } from "../parts/format";
import { useHeldFocus } from "../parts/heldFocus";
import { useFolding } from "../parts/keys";
import { Toasts } from "../parts/Toasts";
import { useUnsavedPots } from "../parts/unsaved";
import { takeWay } from "../parts/way";
import { ErrorBoundary } from "./ErrorBoundary";
import { Faults } from "./Faults";
import { FindField } from "./FindField";
import { useDayOnPaper, usePageHeads } from "./usePages";

const ROOMS = [
  { to: "/", name: "Board" },
  { to: "/buy", name: "Buy" },
  { to: "/trim", name: "Trim" },
  { to: "/cook", name: "Cook" },
  { to: "/price", name: "Price" },
];
// Opened rarely, loaded then.
const WorkingPanel = lazy(async () => ({ default: (await import("../parts/WorkingPanel")).WorkingPanel }));
const KitchenSettings = lazy(async () => ({ default: (await import("./KitchenSettings")).KitchenSettings }));
const THEME = "potrel:theme";

export function Shell() {
  const unsaved = useUnsavedPots();
  const full = useStoreFull();
  const kitchen = useKitchen();
  const written = takeWay(kitchen.data?.settings);
  const { pathname } = useLocation();
  const [question, setQuestion] = useState<Question | null>(null);
  const [settings, setSettings] = useState(false);
  const [theme, setTheme] = useState(() => lasting.get(THEME) ?? "enamel");
  const prices = kitchen.data ? `prices of ${day(kitchen.data.today)}, ${kitchen.data.currency}` : "";
  usePageHeads(
    kitchen.data?.name ?? "",
    kitchen.data ? `${dayOf(kitchen.data.today, "")}, ${kitchen.data.currency}` : "",
  );
  useDayOnPaper(theme);
  useHeldFocus();
  useFolding();
  const ask = useCallback((asked: Question) => setQuestion(asked), []);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    lasting.put(THEME, theme);
  }, [theme]);
  return (
    <CurrencyContext value={kitchen.data?.currency ?? "EUR"}>
      <WorkingContext value={ask}>
        <Toasts>
          <a
            href="#room"
            className="sr-only focus:not-sr-only focus:absolute focus:p-2 focus:bg-base-100 z-50"
          >
            Skip to the room
          </a>
          <header className="top flex flex-wrap items-center gap-x-6 px-5 min-h-12 max-md:px-2 max-md:gap-x-3 no-print">
            <Link to="/" className="brand text-xl font-bold tracking-wide">
              Potrel
            </Link>
            <nav aria-label="Rooms" className="flex gap-1">
              {ROOMS.map((room) => (
                <NavLink
                  key={room.to}
                  to={room.to}
                  end={room.to === "/"}
                  className={({ isActive }) =>
                    `px-3 py-1 rounded ${isActive ? "bg-base-100 text-primary font-semibold" : "hover:underline"}`
                  }
                >
                  {room.name}
                </NavLink>
              ))}
            </nav>
            <FindField />
            {unsaved.length > 0 && (
              <Link
                className="underline ml-auto"
                to={unsaved.length === 1 ? `/cook/${unsaved[0]}` : "/cook"}
                title={unsaved.join(", ")}
              >
                {unsaved.length} {unsaved.length === 1 ? "pot" : "pots"} not saved
              </Link>
            )}
            <span className={`max-lg:hidden ${unsaved.length > 0 ? "" : "ml-auto"}`}>
              {kitchen.data?.name}
            </span>
            {prices && <span className="max-md:hidden">{prices}</span>}
            <button type="button" className="underline max-lg:ml-auto" onClick={() => setSettings(true)}>
              Kitchen
            </button>
            <button
              type="button"
              className="underline"
              onClick={() => setTheme(theme === "night" ? "enamel" : "night")}
            >
              {theme === "night" ? "Day" : "Night"}
            </button>
          </header>
          {kitchen.isError && (
            <p role="alert" className="bg-error text-error-content px-5 py-2">
              {inWords(kitchen.error)}
            </p>
          )}
          {full && (
            <p role="alert" className="bg-warning text-warning-content px-5 py-2 no-print">
              The store of this browser is full, or closed to this page: what you type stays on the screen,
              but a reload would lose it. Save it; then delete what other sites keep in this browser.
            </p>
          )}
          <Faults />
          <main id="room" className="px-5 py-4" tabIndex={-1}>
            <ErrorBoundary at={pathname}>
              {/* Where the kitchen writes its figures otherwise from now on, all of them are written anew. */}
              <Suspense key={written}>
                <Outlet />
              </Suspense>
            </ErrorBoundary>
          </main>
          <Suspense>
            {question && (
              <WorkingPanel key={question.figure} question={question} close={() => setQuestion(null)} />
            )}
            {settings && kitchen.data && (
              <KitchenSettings kitchen={kitchen.data} close={() => setSettings(false)} />
            )}
          </Suspense>
        </Toasts>
      </WorkingContext>
    </CurrencyContext>
  );
}

export function Nowhere() {
  return (
    <div className="sheet p-8 max-w-xl">
      <h1 className="text-2xl font-semibold mb-2">There is nothing at this address</h1>
      <p>
        The soups on sale are on the{" "}
        <Link className="link" to="/">
          Board
        </Link>
        .
      </p>
    </div>
  );
}
