// The one way to the server: typed by its OpenAPI document, errors as problem details.

import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Recipe = Schemas["Recipe"];
export type Stage = Schemas["Stage"];
export type Line = Schemas["Line"];
export type Change = Schemas["Change"];
export type TakeOut = Schemas["TakeOut"];
export type Serving = Schemas["Serving"];
export type Pricing = Schemas["Pricing"];
export type Fault = Schemas["Fault"];
export type Backup = Schemas["Backup"];
export type Settings = Schemas["Settings"];
export type Item = Schemas["Item"];
export type Preparation = Schemas["Preparation"];
export type Offer = Schemas["Offer"];
export type CostSheet = Schemas["CostSheet"];
export type SheetLack = Schemas["SheetLack"];
export type SheetLine = Schemas["SheetLine"];
export type Heat = NonNullable<Schemas["Stage"]["heat"]>;
export type SheetStage = Schemas["SheetStage"];
export type SheetServing = Schemas["SheetServing"];
export type Sureness = Schemas["Confidence"];
export type Uncertainty = Schemas["Uncertainty"];
export type Narrowing = Schemas["Narrowing"];
export type HowSure = Schemas["HowSure"];
export type ReadPage = Schemas["ReadPage"];
export type PotFlow = Schemas["PotFlow"];
export type FlowNode = Schemas["Node"];
export type SideBySideReply = Schemas["SideBySide"];
export type VariantColumn = Schemas["Column"];
export type WhatIfReply = Schemas["WhatIf"];
export type Movable = Schemas["Movable"];
export type Move = Schemas["Move"];
export type SureServing = Schemas["SureServing"];
export type Drift = Schemas["Drift"];
export type Effect = Schemas["Effect"];
export type Effects = Schemas["Effects"];
export type Merged = Schemas["Merged"];
export type Board = Schemas["Board"];
export type BoardRow = Schemas["BoardRow"];
export type CostOtherwise = Schemas["CostOtherwise"];
export type AllergenMatrix = Schemas["AllergenMatrix"];
export type Label = Schemas["Label"];
export type UsableComparison = Schemas["UsableComparison"];
export type Comparison = Schemas["Comparison"];
export type KeptComparison = Schemas["KeptComparison"];
export type UsableForm = Schemas["UsableForm"];
export type Exchange = Schemas["Exchange"];
export type Filled = Schemas["FilledItem"];
export type Working = Schemas["Figure"];
export type TypedLine = Schemas["TypedLine"];
export type TypedInvoice = Schemas["TypedInvoice"];
export type InvoiceRow = Schemas["InvoiceRow"];
export type InvoiceReply = Schemas["InvoiceReply"];
export type UnderstoodRow = Schemas["UnderstoodRow"];
export type Paste = Schemas["Paste"];
export type PasteAnswer = Schemas["LineAnswer"];
export type PasteGoods = Schemas["Goods"];
export type PasteAsked = Schemas["AskedGoods"];
export type PasteLine = Schemas["PastedLine"];
export type PasteReply = Schemas["PasteReply"];
export type PortionAnswer = Schemas["PortionAnswer"];
export type AskedPortion = Schemas["AskedPortion"];
export type PasteSaved = Schemas["PasteSaved"];
export type Named = Schemas["Named"];
export type ItemRow = Schemas["ItemRow"];
export type ItemReply = Schemas["ItemReply"];
export type KitchenHead = Schemas["KitchenHead"];
export type RecipeReply = Schemas["RecipeReply"];
export type RecipeSummary = Schemas["RecipeSummary"];
export type RevisionReply = Schemas["RevisionReply"];
export type TakenOff = Schemas["TakenOff"];
export type PreviewReply = Schemas["PreviewReply"];
export type SaveOffer = Schemas["SaveOffer"];
export type ListsReply = Schemas["ListsReply"];
export type ListRow = Schemas["ListRow"];
export type Fetching = Schemas["Fetching"];
export type ReadStep = Schemas["ReadStep"];
export type ReviewReply = Schemas["ReviewReply"];
export type ReviewLine = Schemas["ReviewLine"];
export type LineChoice = Schemas["LineChoice"];
export type SaveChoices = Schemas["SaveChoices"];
export type Supplier = Schemas["Supplier"];
export type Known = Schemas["Known"];
export type Candidate = Schemas["Candidate"];
export type KnownWeight = Schemas["KnownWeight"];
export type Missing = Schemas["Missing"];
export type Season = Schemas["Season"];
export type Pushed = Schemas["Pushed"];
export type YieldBook = Schemas["YieldBookReply"];
export type YieldRow = Schemas["YieldRow"];
export type YieldReply = Schemas["YieldReply"];
export type ShelfYield = Schemas["ShelfYield"];
export type TestRow = Schemas["TestRow"];
export type BenchTest = Schemas["BenchTest"];
export type YieldChoice = Schemas["Choice"];
export type Tested = Schemas["Tested"];
export type MethodOutcome = Schemas["MethodOutcome"];
export type DraftTest = Schemas["DraftTest"];
export type DraftReply = Schemas["DraftReply"];
export type SheetRow = Schemas["SheetRow"];
export type Reading = Schemas["Reading"];
export type Leftover = Schemas["Leftover"];
export type Exercise = Schemas["Exercise"];
export type MarkedReply = Schemas["MarkedReply"];
export type PracticeReply = Schemas["PracticeReply"];
export type Prices = Schemas["Prices"];
export type RepricingRow = Schemas["RepricingRow"];
export type RoundEffect = Schemas["RoundEffect"];
export type Selling = Schemas["Selling"];
export type PriceRow = Schemas["PriceRow"];
export type Rung = Schemas["Rung"];
export type TakenBack = Schemas["TakenBack"];
export type PastRound = Schemas["PastRound"];
export type Deal = Schemas["Deal"];
export type DealSold = Schemas["DealSold"];
export type Deals = Schemas["Deals"];
export type Channel = Schemas["Channel"];
export type Papers = Schemas["Papers"];
export type Overhead = Schemas["Overhead"];
export type ProblemDetails = Schemas["ProblemDetails"];
type Problem = Schemas["Problem"];

export type { Problem };

/** An answer that is no success, with what the server said of it. */
export class Refusal extends Error {
  readonly problem: ProblemDetails;
  constructor(problem: ProblemDetails) {
    super(problem.detail);
    this.problem = problem;
  }
}

/** Whether nobody answered: the server is away, and may come back. */
export const isAway = (error: unknown) => error instanceof Refusal && error.problem.title === NO_ANSWER;
const NO_ANSWER = "No answer";

export const api = createClient<paths>({ baseUrl: "/" });

const UNREACHABLE =
  "The server does not answer. What you typed is kept here; it is sent again when you try again.";

/** The data of an answer; throws a Refusal for a problem, and for a server that cannot be reached. */
export async function told<T>(
  answer: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let got: { data?: T; error?: unknown; response: Response };
  try {
    got = await answer;
  } catch {
    throw new Refusal(plainProblem(0, UNREACHABLE));
  }
  if (got.response.ok) return got.data as T;
  const problem = got.error;
  if (isProblem(problem)) throw new Refusal(problem);
  throw new Refusal(plainProblem(got.response.status, UNREACHABLE));
}

function isProblem(value: unknown): value is ProblemDetails {
  return typeof value === "object" && value !== null && "detail" in value && "status" in value;
}

function plainProblem(status: number, detail: string): ProblemDetails {
  const nothing = {
    where: null,
    theirs: null,
    their_item: null,
    their_revision: null,
    saved_by: null,
    code: null,
    params: null,
  };
  return { type: "about:blank", title: NO_ANSWER, status, detail, ...nothing };
}

/** What to tell the person about an error. */
export function inWords(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
