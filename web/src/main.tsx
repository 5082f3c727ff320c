import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { Nowhere, Shell } from "./app/Shell";
import { AllergenSheet } from "./rooms/board/AllergenSheet";
import { BoardRoom } from "./rooms/board/BoardRoom";
import { BuyRoom } from "./rooms/buy/BuyRoom";
import { CompareForms } from "./rooms/buy/CompareForms";
import { ListsRoom } from "./rooms/buy/lists/ListsRoom";
import { ReviewRoom } from "./rooms/buy/lists/ReviewRoom";
import { CookRoom } from "./rooms/cook/CookRoom";
import { PotRoom } from "./rooms/cook/PotRoom";
import "./style.css";

const queries = new QueryClient({
  // The server is on this machine or near: a browser that thinks it is offline tries all the same, and says what came of it.
  defaultOptions: {
    queries: { staleTime: 2000, retry: 1, refetchOnWindowFocus: true, networkMode: "always" },
    mutations: { networkMode: "always" },
  },
});

const router = createBrowserRouter([
  {
    element: <Shell />,
    hydrateFallbackElement: <p>Opening the kitchen …</p>,
    children: [
      { path: "/", element: <BoardRoom /> },
      { path: "/allergens", element: <AllergenSheet /> },
      { path: "/cook", element: <CookRoom /> },
      { path: "/cook/:recipe", element: <PotRoom /> },
      { path: "/buy", element: <BuyRoom /> },
      { path: "/buy/compare", element: <CompareForms /> },
      { path: "/buy/lists", element: <ListsRoom /> },
      { path: "/buy/lists/:number", element: <ReviewRoom /> },
      { path: "/buy/:item", element: <BuyRoom /> },
      { path: "/trim", lazy: async () => ({ Component: (await import("./rooms/trim/TrimRoom")).TrimRoom }) },
      {
        path: "/trim/yields/:item/:sort/:of",
        lazy: async () => ({ Component: (await import("./rooms/trim/YieldPage")).YieldPage }),
      },
      {
        path: "/trim/bench",
        lazy: async () => ({ Component: (await import("./rooms/trim/BenchRoom")).BenchRoom }),
      },
      {
        path: "/trim/bench/:sheet",
        lazy: async () => ({ Component: (await import("./rooms/trim/BenchRoom")).BenchRoom }),
      },
      {
        path: "/trim/leftovers",
        lazy: async () => ({ Component: (await import("./rooms/trim/LeftoversRoom")).LeftoversRoom }),
      },
      {
        path: "/trim/practice",
        lazy: async () => ({ Component: (await import("./rooms/trim/PracticeRoom")).PracticeRoom }),
      },
      { path: "*", element: <Nowhere /> },
    ],
  },
]);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
