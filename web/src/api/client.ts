import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type SchoolClass = Schemas["ClassView"];
export type Child = Schemas["ChildView"];
export type ChildChange = Schemas["ChildChange"];
export type Row = Schemas["RowView"];
export type RowSummary = Schemas["RowSummary"];
export type Attempt = Schemas["AttemptView"];
export type KeptAttempt = Schemas["KeptAttempt"];
export type AttemptIn = Schemas["AttemptIn"];
export type Edit = Schemas["EditIn"];
export type Finding = Schemas["FindingView"];
export type LetterResult = Schemas["LetterView"];
export type Word = Schemas["WordView"];
export type StrokeInk = Schemas["StrokeInk"];
export type Ruling = Schemas["RulingView"];
export type Lines = Schemas["Lines"];
export type LetterModel = Schemas["LetterModel"];
export type LetterDrawing = Schemas["LetterDrawing"];
export type TextModel = Schemas["TextModel"];
export type Boxed = Schemas["Boxed"];
export type FamilyBoard = Schemas["BoardView"];
export type Family = Schemas["FamilyView"];
export type Member = Schemas["MemberView"];
export type FamilyChange = Schemas["ChangeIn"]["change"];
export type FamilyPart = Schemas["FamilyPartView"];
export type StyleDoc = Schemas["StyleDoc"];
export type StyleLook = Schemas["StyleLook"];
export type StyleVersion = Schemas["StyleVersion"];
export type ChildsLetter = Schemas["ChildsLetter"];
export type Difference = Schemas["DifferenceView"];
export type Slip = Schemas["SlipDrawing"];
/** A slip with the letter it is one of. */
export type SlipOf = Slip & { char: string };
export type SchemeKey = NonNullable<paths["/api/families"]["get"]["parameters"]["query"]>["scheme"] & string;
export type Alphabet = NonNullable<paths["/api/families"]["get"]["parameters"]["query"]>["alphabet"] & string;
export type LetterHistory = Schemas["LetterHistory"];
export type DatedAttempt = Schemas["DatedAttempt"];
export type Verdict = Schemas["AttemptView"]["verdict"];
export type MarkVerdict = "secure" | "near" | "fix";
export type Support = Schemas["AttemptView"]["support"];
export type Explained = Schemas["Explanation"];
export type MoveInk = Schemas["MoveInkView"];
export type Queue = Schemas["Queue"];
export type QueueGroup = Schemas["QueueGroup"];
export type QueueRow = Schemas["QueueRow"];
export type QueueAttempt = Schemas["QueueAttempt"];
export type Agreement = Schemas["AgreementView"];
export type Seen = Schemas["WatchedIn"]["seen"];
export type Level = SchoolClass["level"];
export type QueueOrder = NonNullable<
  NonNullable<paths["/api/classes/{class_id}/queue"]["get"]["parameters"]["query"]>["order"]
>;
export type FoundWords = Schemas["FoundWords"];
export type FoundWord = Schemas["FoundWord"];
export type DrawnWord = Schemas["DrawnWord"];
export type Ring = Schemas["RingView"];
export type Gap = Schemas["GapView"];
export type SortWord = Schemas["SortWord"];
export type SentenceSeen = Schemas["SentenceView"];
export type Dictation = Schemas["DictationView"];
export type DictationSummary = Schemas["DictationSummary"];
export type Dictated = Schemas["DictatedView"];
export type ChildUnits = Schemas["ChildUnits"];
export type UnitMap = Schemas["UnitMap"];
export type BankWord = Schemas["WordOfBank"];
export type WordListSeen = Schemas["ListView"];
export type Plan = Schemas["PlanView"];
export type PlanWeek = Schemas["PlanWeek"];
export type PlannedLesson = Schemas["LessonLine"];
export type PlanItem = Schemas["Item"];
export type OrderChoice = Schemas["OrderChoice"];
export type Order = Schemas["OrderIn"]["order"];
export type PlanIn = Schemas["PlanIn"];
export type TermIn = Omit<Schemas["DaysIn"], "number">;
export type HolidayIn = Schemas["HolidayIn"];
export type PlanDefaults = Schemas["PlanDefaults"];
export type LessonPage = Schemas["LessonPage"];
export type LessonMoment = Schemas["MomentView"];
export type LessonPart = Schemas["PartView"];
export type PageIn = Schemas["PageIn"];
export type PartDone = Schemas["PartIn"];
export type LessonToday = Schemas["LessonToday"];
export type ToTell = Schemas["ToTell"];
export type Pile = Schemas["Pile"];
export type PageSummary = Schemas["PageSummary"];
export type PageSeen = Schemas["PageView"];
export type PagePlace = Schemas["EntryView"];
export type Decision = Schemas["DecisionIn"];
export type SheetPage = Schemas["SheetPageIn"];
export type Writing = Schemas["WritingIn"];
export type Band = Schemas["BandView"];
export type PaperCut = Schemas["Paper"];
export type SheetWish = Schemas["SheetWish"];
export type SheetRow = SheetWish["rows"][number];
export type WritingRow = Schemas["WritingRow"];
export type SheetPreview = Schemas["SheetPreview"];
export type SheetWanted = Schemas["WantedIn"];
export type NamedWish = Schemas["NamedWish"];
export type ReadySheet = Schemas["ReadySheet"];
export type KeptSheet = Schemas["KeptView"];
export type ChildSheet = Schemas["ChildSheet"];
export type PrintedSheet = Schemas["PrintedView"];
export type PrintIn = Schemas["PrintIn"];
export type ClassMap = Schemas["ClassMap"];
export type Aspect = ClassMap["aspect"];
export type State = Schemas["MapCell"]["state"];
export type Today = Schemas["Today"];
export type Group = Schemas["TeachGroup"];
export type GroupIn = Schemas["GroupIn"];
export type Story = Schemas["Story"];
export type LetterStory = Schemas["LetterStory"];
export type HeadingStory = Schemas["HeadingStory"];
export type MeasureStory = Schemas["MeasureStory"];
export type Standing = Schemas["StandingView"];
export type HeadingName = Finding["heading"];

export type RoomSeen = Schemas["RoomView"];
export type ChildInRoom = Schemas["ChildInRoom"];
export type ChildsLine = Schemas["ChildsLine"];
export type AtTheDoor = Schemas["TabletAtTheDoor"];
export type Arrived = Schemas["Arrived"];
export type HandOut = Partial<Schemas["HandOutIn"]>;
export type ChildsPage = Schemas["ChildsPage"];
export type TabletSheet = Schemas["Sheet"];

export const api = createClient<paths>({ baseUrl: "" });

/** What went wrong, in words fit for a screen. `status` is 0 when the server could not be reached. */
export class Problem extends Error {
  readonly status: number;

  constructor(status: number, message: string) {
    super(message);
    this.status = status;
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

function said(error: unknown): string {
  const detail = typeof error === "object" && error !== null && "detail" in error ? error.detail : null;
  if (typeof detail === "string") return detail;
  if (Array.isArray(detail)) return `This was not accepted: ${detail.map((one) => one.msg).join("; ")}.`;
  return "The records could not be read.";
}

/** Unwrap an answer of the client, or throw a Problem. */
export async function got<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await asked;
  } catch {
    throw new Problem(0, "First Loop cannot be reached. Nothing is lost; start it again and go on.");
  }
  if (!answer.response.ok) throw new Problem(answer.response.status, said(answer.error));
  return answer.data as T;
}
