"""Slips in what the browser holds: drafts, what was typed and not sent, edits of a whole thing, the order of the board."""

from __future__ import annotations

from tests.mutations.sample import Slip

_DRAFT, _EDITED, _KEEPER, _STORE = "draft", "edited", "keeper", "store"

# The files are those of `web/`, what notices them is a file of its tests.
WEB_SAMPLE = (
    Slip("what is typed while a save is under way is lost", "src/rooms/cook/draft.ts",
         "...state, base: action.recipe,", "...state, recipe: action.recipe, base: action.recipe,", _DRAFT),
    Slip("each letter is a step to undo", "src/rooms/cook/draft.ts", "field !== null && field === state.field", "false",
         _DRAFT),
    Slip("theirs is taken without a way back", "src/rooms/cook/draft.ts",
         "past: [...state.past, state.recipe] };", "past: [] };", _DRAFT),
    Slip("a stage that goes leaves nothing to take from", "src/rooms/cook/draft.ts",
         "inflow.stage === gone.id ? gone.from : [inflow]", "inflow.stage === gone.id ? [] : [inflow]", _DRAFT),
    Slip("a draft of another tab is taken for one's own", "src/rooms/cook/draft.ts",
         "draftsOf(id).filter(([name]) => name !== own(id))", "draftsOf(id)", _DRAFT),
    Slip("a line that moves keeps a name that is taken", "src/rooms/cook/draft.ts",
         "taken ? { ...line, id: null } : line", "line", _DRAFT),
    Slip("a flame that nobody said is turned up in a draft of before", "src/rooms/cook/draft.ts",
         "version < 2 ? unsaidFlame(value) : value", "value", _DRAFT),
    Slip("what both changed is theirs without a word", "src/rooms/cook/merge.ts",
         "told.both.push(what);\n  return mine;", "return theirs;", "merge"),
    Slip("what one took out and the other changed is gone", "src/rooms/cook/merge.ts",
         "found.push([key, one]);\n    }\n  }", "}\n  }", "merge"),
    Slip("another's save does not make an edit stale", "src/parts/useEdited.ts",
         "!done && !same(kept.base, theirs)", "false", _EDITED),
    Slip("an edit is over what came later", "src/parts/useEdited.ts", "return { ...kept, changed: !done,",
         "return { ...kept, base: theirs, changed: !done,", _EDITED),
    Slip("an older page spoils what a newer one kept", "src/parts/keeper.ts", "if (of > version) return aside(id, text);", "",
         _KEEPER),
    Slip("what cannot be read is thrown away", "src/parts/keeper.ts", "putAside(`${name}:${id}`, text);", "", _KEEPER),
    Slip("a value of before is not brought up", "src/parts/keeper.ts", "of === version ? value : earlier(value, of)", "value",
         _KEEPER),
    Slip("what was put aside takes the room of what is typed", "src/parts/browserStore.ts", "clearAsides(0);", "", _STORE),
    Slip("what is typed while a round is sent goes with it", "src/rooms/price/round.ts", "sent[key] !== text", "!(key in sent)",
         _STORE),
    Slip("a comma is sent as it stands in the field", "src/parts/way.ts",
         'text.trim().replace(",", ".") : text;', "text : text;", "way"),
    Slip("a serving over its target asks for no look", "src/rooms/board/order.ts", "over_target: 32,", "over_target: 0,",
         "order"),
    Slip("the watch of a sheet runs on in what is recorded", "src/rooms/trim/sheet.ts",
         "minutes: trimmed(String(passed(sheet, now)), 1)", "minutes: sheet.minutes", "sheet"),
    Slip("a number that is none is sent as nothing", "src/rooms/cook/tried.ts",
         'if (text.trim() === "" || !Number.isFinite(value)) return null;', "", "tried"),
)  # fmt: skip
