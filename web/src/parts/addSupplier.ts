// Adds a supplier of whom only the name is known yet.

import { api, type Supplier, told } from "../api/client";
import { idFor } from "./format";

/** Adds the supplier, and returns its id. */
export async function addSupplier(name: string, known: Supplier[]): Promise<string> {
  const id = idFor(name, (one) => known.some((supplier) => supplier.id === one));
  const blank = { columns: {}, passed_over: [], catalogue_url: null, fetch_at: null, forms: [] };
  await told(api.POST("/api/suppliers", { body: { id, name, ...blank } }));
  return id;
}
