import { MutationCache, QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { Problem, type Row } from "@/api/client";
import { keys, wentStale } from "@/api/keys";
import { showNewest } from "@/api/newest";
import { PageHead, Shell } from "@/app/Shell";
import { SchoolProvider } from "@/app/school";
import { waitingCount, watch, whenKept } from "@/ink/outbox";
import { BoardScreen } from "@/screens/board/BoardScreen";
import { CheckList } from "@/screens/check/CheckList";
import { CheckRow } from "@/screens/check/CheckRow";
import { TrustScreen } from "@/screens/check/TrustScreen";
import { WatchScreen } from "@/screens/check/WatchScreen";
import { ChildScreen } from "@/screens/child/ChildScreen";
import { StoryScreen } from "@/screens/child/StoryScreen";
import { WordsScreen } from "@/screens/child/WordsScreen";
import { ClassScreen } from "@/screens/class/ClassScreen";
import { ClassSettings } from "@/screens/class/ClassSettings";
import { AnotherClass } from "@/screens/class/NewClass";
import { DictationScreen } from "@/screens/dictation/DictationScreen";
import { Door } from "@/screens/door/Door";
import { FamiliesScreen } from "@/screens/families/FamiliesScreen";
import { LetterInClass } from "@/screens/letters/LetterInClass";
import { LetterScreen } from "@/screens/letters/LetterScreen";
import { LessonScreen } from "@/screens/plan/LessonScreen";
import { PlanScreen } from "@/screens/plan/PlanScreen";
import { RunLesson } from "@/screens/plan/RunLesson";
import { DifferencesScreen } from "@/screens/style/DifferencesScreen";
import { StyleScreen } from "@/screens/style/StyleScreen";
import { TodayScreen } from "@/screens/today/TodayScreen";
import { WordBoard } from "@/screens/words/WordBoard";
import { WordsOfClass } from "@/screens/words/WordsOfClass";
import { ChooseRow } from "@/screens/write/ChooseRow";
import { WriteRow } from "@/screens/write/WriteRow";
import { WriteWord } from "@/screens/write/WriteWord";
import { Loading } from "@/ui/States";
import "./styles.css";

/** Paper has rooms of its own: their script is fetched when they are entered. */
const SheetsScreen = lazy(() =>
  import("@/screens/sheets/SheetsScreen").then((room) => ({ default: room.SheetsScreen })),
);
const PagesScreen = lazy(() =>
  import("@/screens/check/pages/PagesScreen").then((room) => ({ default: room.PagesScreen })),
);

const RecordsScreen = lazy(() =>
  import("@/screens/records/RecordsScreen").then((room) => ({ default: room.RecordsScreen })),
);
const RoomScreen = lazy(() =>
  import("@/screens/room/RoomScreen").then((room) => ({ default: room.RoomScreen })),
);
const TabletScreen = lazy(() =>
  import("@/screens/tablet/TabletScreen").then((tablet) => ({ default: tablet.TabletScreen })),
);

// what a dialog adds to the page while it is open is let in by the page's own nonce
setNonce(document.querySelector<HTMLMetaElement>("meta[property=csp-nonce]")?.nonce ?? "");

const RETRIES = 2;
const client: QueryClient = new QueryClient({
  queryCache: new QueryCache({ onError: (error) => sessionEnded(error) }),
  mutationCache: new MutationCache({ onError: (error) => sessionEnded(error) }),
  defaultOptions: {
    queries: {
      staleTime: 2_000,
      retry: (count, error) =>
        count < RETRIES && !(error instanceof Problem && error.status >= 400 && error.status < 500),
    },
  },
});

/** Where the session has ended the door is shut again; what is under a pen or on its way stays on the device. */
function sessionEnded(error: Error) {
  if (error instanceof Problem && error.status === 401)
    void client.invalidateQueries({ queryKey: keys.door() });
}

// an attempt goes from the outbox into the row on screen without a moment in between
whenKept(async (rowId, attempt) => {
  const key = keys.row(rowId);
  const row = client.getQueryData<Row>(key);
  if (!row) return;
  const others = row.attempts.filter((one) => one.id !== attempt.id);
  await showNewest(client, key, { ...row, to_write: attempt.to_write, attempts: [...others, attempt] });
});

// when the last attempt has reached the records, whatever the pages show of them is out of date
watch(() => {
  if (waitingCount() === 0) wentStale(client, "written");
});

const NotHere = () => (
  <>
    <PageHead title="There is no such page" />
    <p>Choose a screen in the margin.</p>
  </>
);

/** Everything of the teacher's. */
const School = () => (
  <Door>
    <SchoolProvider>
      <Routes>
        <Route path="/board" element={<BoardScreen />} />
        <Route path="/board/words/:kind" element={<WordBoard />} />
        <Route path="/plan/lesson/:key/run" element={<RunLesson />} />
        <Route path="/write/:rowId" element={<WriteRow />} />
        <Route path="/write/word/:wordId" element={<WriteWord />} />
        <Route element={<Shell />}>
          <Route index element={<Navigate to="/today" replace />} />
          <Route path="/today" element={<TodayScreen />} />
          <Route path="/plan/:part?" element={<PlanScreen />} />
          <Route path="/plan/lesson/:key" element={<LessonScreen />} />
          <Route path="/families" element={<FamiliesScreen />} />
          <Route path="/style" element={<StyleScreen />} />
          <Route path="/differences" element={<DifferencesScreen />} />
          <Route path="/letters/:char?" element={<LetterScreen />} />
          <Route path="/letters/:char/class" element={<LetterInClass />} />
          <Route path="/words/:part?" element={<WordsOfClass />} />
          <Route path="/dictation/:dictationId" element={<DictationScreen />} />
          <Route path="/write" element={<ChooseRow />} />
          <Route
            path="/write/room"
            element={
              <Suspense fallback={<Loading what="the room" />}>
                <RoomScreen />
              </Suspense>
            }
          />
          <Route
            path="/sheets/:part?"
            element={
              <Suspense fallback={<Loading what="the sheets" />}>
                <SheetsScreen />
              </Suspense>
            }
          />
          <Route path="/check" element={<CheckList />} />
          <Route path="/check/watch" element={<WatchScreen />} />
          <Route path="/check/words" element={<Navigate to="/check?at=words" replace />} />
          <Route path="/check/trust" element={<TrustScreen />} />
          <Route
            path="/check/pages"
            element={
              <Suspense fallback={<Loading what="the pages" />}>
                <PagesScreen />
              </Suspense>
            }
          />
          <Route path="/check/:rowId" element={<CheckRow />} />
          <Route path="/class" element={<ClassScreen />} />
          <Route path="/class/settings" element={<ClassSettings />} />
          <Route path="/class/new" element={<AnotherClass />} />
          <Route
            path="/records"
            element={
              <Suspense fallback={<Loading what="the care of records" />}>
                <RecordsScreen />
              </Suspense>
            }
          />
          <Route path="/children/:childId" element={<StoryScreen />} />
          <Route path="/children/:childId/words" element={<WordsScreen />} />
          <Route path="/children/:childId/:char" element={<ChildScreen />} />
          <Route path="*" element={<NotHere />} />
        </Route>
      </Routes>
    </SchoolProvider>
  </Door>
);

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      {/* a choice is drawn before the next one can be made, also on a slow machine */}
      <BrowserRouter useTransitions={false}>
        <Routes>
          <Route
            path="/tablet"
            element={
              <Suspense fallback={null}>
                <TabletScreen />
              </Suspense>
            }
          />
          <Route path="*" element={<School />} />
        </Routes>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
