import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type SchoolClass = Schemas["ClassOut"];
export type Child = Schemas["ChildOut"];
export type ChildChange = Schemas["ChildChange"];
export type Row = Schemas["RowOut"];
export type RowSummary = Schemas["RowSummary"];
export type Attempt = Schemas["AttemptOut"];
export type AttemptIn = Schemas["AttemptIn"];
export type Edit = Schemas["EditIn"];
export type Finding = Schemas["FindingOut"];
export type LetterResult = Schemas["LetterOut"];
export type Word = Schemas["WordOut"];
export type StrokeInk = Schemas["StrokeInk"];
export type Lines = Schemas["RulingLines"];
export type LetterModel = Schemas["LetterModelOut"];
export type LetterDrawing = Schemas["LetterDrawing"];
export type TextModel = Schemas["TextModelOut"];
export type FamilyBoard = Schemas["BoardOut"];
export type Family = Schemas["FamilyOut"];
export type Member = Schemas["MemberOut"];
export type FamilyChange = Schemas["ChangeIn"]["change"];
export type FamilyPart = Schemas["PartOut"];
export type StyleDoc = Schemas["StyleDoc"];
export type StyleLook = Schemas["StyleLookOut"];
export type StyleVersion = Schemas["StyleVersionOut"];
export type Slip = Schemas["ShownSlipOut"];
export type SchemeKey = NonNullable<paths["/api/families"]["get"]["parameters"]["query"]>["scheme"] & string;
export type Alphabet = NonNullable<paths["/api/families"]["get"]["parameters"]["query"]>["alphabet"] & string;
export type LetterHistory = Schemas["LetterHistoryOut"];
export type DatedAttempt = Schemas["DatedAttempt"];
export type Verdict = Schemas["AttemptOut"]["verdict"];
export type MarkVerdict = NonNullable<Schemas["AttemptOut"]["mark"]>;
export type Support = Schemas["AttemptOut"]["support"];
export type Explained = Schemas["ExplainedOut"];
export type MoveInk = Schemas["MoveInkOut"];
export type Queue = Schemas["QueueOut"];
export type Agreement = Schemas["AgreementOut"];
export type Seen = Schemas["WatchedIn"]["seen"];
export type Level = SchoolClass["level"];
export type QueueOrder = NonNullable<
  NonNullable<paths["/api/classes/{class_id}/queue"]["get"]["parameters"]["query"]>["order"]
>;
export type ClassMap = Schemas["ClassMapOut"];
export type Aspect = ClassMap["aspect"];
export type State = Schemas["CellOut"]["state"];
export type Today = Schemas["TodayOut"];
export type Group = Schemas["TeachGroupOut"];
export type GroupIn = Schemas["GroupIn"];
export type Story = Schemas["StoryOut"];
export type LetterStory = Schemas["LetterStoryOut"];
export type HeadingStory = Schemas["HeadingStoryOut"];
export type MeasureStory = Schemas["MeasureStoryOut"];
export type Standing = Schemas["StandingOut"];
export type HeadingName = Finding["heading"];

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
