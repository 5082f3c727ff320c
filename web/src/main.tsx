import { QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { type ComponentType, lazy, StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";
import { isAway } from "./api/client";
import { Nowhere, Shell } from "./app/Shell";
import { holdTab } from "./parts/tab";
import { BoardRoom } from "./rooms/board/BoardRoom";
import { OtherwiseRoom } from "./rooms/board/CostsOtherwise";
import "./style.css";

const AGAIN = 3000;

holdTab();
// Where the browser allows it: at an address without a certificate that is this machine only.
if (import.meta.env.PROD) void navigator.serviceWorker?.register("/worker.js");
const queries: QueryClient = new QueryClient({
  queryCache: new QueryCache({
    // Whoever finds nobody there has the head of the page say so: what is shown is as it was.
    onError: (error, { queryKey }) => {
      if (isAway(error) && queryKey[0] !== "kitchen")
        void queries.invalidateQueries({ queryKey: ["kitchen"] });
    },
  }),
  // The server is on this machine or near: a browser that thinks it is offline tries all the same, and says what came of it.
  defaultOptions: {
    queries: {
      staleTime: 2000,
      retry: 1,
      refetchOnWindowFocus: true,
      networkMode: "always",
      // A room that found nobody there asks again until somebody answers, and then shows what it has.
      refetchInterval: ({ state }) => (isAway(state.error) ? AGAIN : false),
    },
    mutations: { networkMode: "always" },
  },
});

/** A page that is loaded when it is gone to: the first one, the board, comes alone. */
function page<N extends string>(load: () => Promise<Record<N, ComponentType>>, name: N) {
  const Page = lazy(async () => ({ default: (await load())[name] as ComponentType }));
  return <Page />;
}

const buy = page(() => import("./rooms/buy/BuyRoom"), "BuyRoom");
const bench = page(() => import("./rooms/trim/BenchRoom"), "BenchRoom");
const PAGES = {
  "/": <BoardRoom />,
  "/allergens": page(() => import("./rooms/board/AllergenSheet"), "AllergenSheet"),
  "/cook": page(() => import("./rooms/cook/CookRoom"), "CookRoom"),
  "/cook/from/paper": page(() => import("./rooms/cook/paper/PaperRoom"), "PaperRoom"),
  "/cook/side/by-side": page(() => import("./rooms/cook/SideBySide"), "SideBySide"),
  "/cook/:recipe/flow": page(() => import("./rooms/cook/flow/FlowRoom"), "FlowRoom"),
  "/cook/:recipe": page(() => import("./rooms/cook/PotRoom"), "PotRoom"),
  "/buy": buy,
  "/buy/from/paper": page(() => import("./rooms/buy/InvoiceRoom"), "InvoiceRoom"),
  "/buy/compare": page(() => import("./rooms/buy/CompareForms"), "CompareForms"),
  "/buy/lists": page(() => import("./rooms/buy/lists/ListsRoom"), "ListsRoom"),
  "/buy/lists/:number": page(() => import("./rooms/buy/lists/ReviewRoom"), "ReviewRoom"),
  "/buy/:item": buy,
  "/price": page(() => import("./rooms/price/PriceRoom"), "PriceRoom"),
  "/otherwise": <OtherwiseRoom />,
  "/price/history": page(() => import("./rooms/price/HistoryRoom"), "HistoryRoom"),
  "/price/deals": page(() => import("./rooms/price/DealsRoom"), "DealsRoom"),
  "/price/ways": page(() => import("./rooms/price/WaysRoom"), "WaysRoom"),
  "/price/papers": page(() => import("./rooms/price/PapersRoom"), "PapersRoom"),
  "/price/:recipe/:serving": page(() => import("./rooms/price/ServingPrice"), "ServingPrice"),
  "/trim": page(() => import("./rooms/trim/TrimRoom"), "TrimRoom"),
  "/trim/yields/:item/:sort/:of": page(() => import("./rooms/trim/YieldPage"), "YieldPage"),
  "/trim/bench": bench,
  "/trim/bench/:sheet": bench,
  "/trim/leftovers": page(() => import("./rooms/trim/LeftoversRoom"), "LeftoversRoom"),
  "/trim/practice": page(() => import("./rooms/trim/PracticeRoom"), "PracticeRoom"),
  "*": <Nowhere />,
};

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Routes>
            <Route element={<Shell />}>
              {Object.entries(PAGES).map(([path, element]) => (
                <Route key={path} path={path} element={element} />
              ))}
            </Route>
          </Routes>
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
}
