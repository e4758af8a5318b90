import {
  keepPreviousData,
  type QueryClient,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import {
  api,
  got,
  type LessonPage,
  type Order,
  type PageIn,
  type PartDone,
  type Plan,
  type PlanIn,
  type TermIn,
} from "./client";
import { keys, wentStale } from "./keys";
import { showNewest } from "./newest";

const of = (classId: number) => ({ path: { class_id: classId } });
const lesson = (classId: number, key: number) => ({ path: { class_id: classId, key } });

export const usePlan = (classId: number) =>
  useQuery({
    queryKey: keys.plan(classId),
    queryFn: () => got(api.GET("/api/classes/{class_id}/plan", { params: of(classId) })),
  });

export const usePlanDefaults = (classId: number) =>
  useQuery({
    queryKey: keys.planDefaults(classId),
    queryFn: () => got(api.GET("/api/classes/{class_id}/plan/defaults", { params: of(classId) })),
  });

/** The orders to choose from; with a share also the one between. They are looked for as long as that takes. */
export const usePlanOrders = (classId: number, number: number, share: number[] | null, whole: boolean) =>
  useQuery({
    queryKey: keys.planOrders(classId, number, share, whole),
    queryFn: () => {
      const [movement = 0, words = 0, apart = 0] = share ?? [];
      const query = share ? { movement, words, apart, whole } : { whole };
      return got(api.GET("/api/classes/{class_id}/plan/orders", { params: { ...of(classId), query } }));
    },
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });

async function shown(client: QueryClient, classId: number, plan: Plan | null) {
  await showNewest(client, keys.plan(classId), plan);
  wentStale(client, "plan");
}

export function useMakePlan(classId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: PlanIn) =>
      got(api.POST("/api/classes/{class_id}/plan", { params: of(classId), body })),
    onSuccess: (plan) => shown(client, classId, plan),
  });
}

/** The number of the plan as the lesson on screen has it, where the plan itself is still on its way. */
function numberSeen(client: QueryClient, classId: number): number {
  const pages = client.getQueriesData<LessonPage>({ queryKey: keys.lesson(classId, 0).slice(0, 2) });
  return Math.max(1, ...pages.map(([, page]) => page?.number ?? 1));
}

/** Every way to change a plan. Steps go one after another, each on the plan as the one before left it. */
export function usePlanSteps(classId: number) {
  const client = useQueryClient();
  const number = () => client.getQueryData<Plan>(keys.plan(classId))?.number ?? numberSeen(client, classId);
  const step = <Given>(change: (given: Given) => Promise<Plan | null>) => ({
    scope: { id: `plan ${classId}` },
    mutationFn: change,
    onSuccess: (plan: Plan | null) => shown(client, classId, plan),
    onError: () => client.invalidateQueries({ queryKey: keys.plan(classId) }),
  });
  const params = of(classId);
  const letter = useMutation(
    step((given: { letter: string; lesson: number }) =>
      got(api.POST("/api/classes/{class_id}/plan/letters", { params, body: { ...given, number: number() } })),
    ),
  );
  const move = useMutation(
    step(({ key, to }: { key: number; to: number }) =>
      got(
        api.POST("/api/classes/{class_id}/plan/lessons/{key}/move", {
          params: lesson(classId, key),
          body: { to, number: number() },
        }),
      ),
    ),
  );
  const lock = useMutation(
    step(({ key, locked }: { key: number; locked: boolean }) =>
      got(
        api.PUT("/api/classes/{class_id}/plan/lessons/{key}/lock", {
          params: lesson(classId, key),
          body: { locked, number: number() },
        }),
      ),
    ),
  );
  const tell = useMutation(
    step(({ key, shown: told }: { key: number; shown: string[] | null }) =>
      got(
        api.PUT("/api/classes/{class_id}/plan/lessons/{key}/told", {
          params: lesson(classId, key),
          body: { shown: told, number: number() },
        }),
      ),
    ),
  );
  const order = useMutation(
    step((given: { order: Order; share: [number, number, number] }) =>
      got(api.PUT("/api/classes/{class_id}/plan/order", { params, body: { ...given, number: number() } })),
    ),
  );
  const days = useMutation(
    step((given: TermIn) =>
      got(api.PUT("/api/classes/{class_id}/plan/days", { params, body: { ...given, number: number() } })),
    ),
  );
  const undo = useMutation(
    step((_: undefined) =>
      got(api.POST("/api/classes/{class_id}/plan/undo", { params, body: { number: number() } })),
    ),
  );
  const drop = useMutation({
    mutationFn: () => got(api.DELETE("/api/classes/{class_id}/plan", { params })),
    onSuccess: () => shown(client, classId, null),
  });
  return { letter, move, lock, tell, order, days, undo, drop };
}

/** Days of a calendar file that fall into a term. */
export async function readHolidays(classId: number, file: File, first: string, last: string) {
  const params = { ...of(classId), query: { first, last } };
  return got(
    api.POST("/api/classes/{class_id}/plan/holidays", {
      params,
      body: (await file.arrayBuffer()) as never,
      bodySerializer: (body) => body as never,
      headers: { "Content-Type": "text/calendar" },
    }),
  );
}

export const useLesson = (classId: number, key: number) =>
  useQuery({
    queryKey: keys.lesson(classId, key),
    queryFn: () =>
      got(api.GET("/api/classes/{class_id}/plan/lessons/{key}", { params: lesson(classId, key) })),
    placeholderData: keepPreviousData,
  });

export const useLessonToday = (classId: number) =>
  useQuery({
    queryKey: keys.lessonToday(classId),
    queryFn: () => got(api.GET("/api/classes/{class_id}/plan/today", { params: of(classId) })),
  });

export function useChangeLesson(classId: number, key: number) {
  const client = useQueryClient();
  return useMutation({
    scope: { id: `plan ${classId}` },
    mutationFn: (fields: Omit<PageIn, "number">) => {
      const number = client.getQueryData<LessonPage>(keys.lesson(classId, key))?.number ?? 1;
      return got(
        api.PATCH("/api/classes/{class_id}/plan/lessons/{key}", {
          params: lesson(classId, key),
          body: { ...fields, number },
        }),
      );
    },
    onSuccess: async (page) => {
      await showNewest(client, keys.lesson(classId, key), page);
      void client.invalidateQueries({ queryKey: keys.plan(classId) });
    },
    onError: () => client.invalidateQueries({ queryKey: keys.lesson(classId, key) }),
  });
}

/** Note what was done of a lesson: the whole note each time, one after another. */
export function useNoteRun(classId: number, key: number) {
  const client = useQueryClient();
  return useMutation({
    scope: { id: `run ${classId} ${key}` },
    mutationFn: (body: { started_at: string; parts: PartDone[]; finished: boolean }) =>
      got(api.PUT("/api/classes/{class_id}/plan/lessons/{key}/run", { params: lesson(classId, key), body })),
    retry: 3,
    onSuccess: async (page, { finished }) => {
      await showNewest(client, keys.lesson(classId, key), page);
      if (finished) {
        void client.invalidateQueries({ queryKey: keys.plan(classId) });
        wentStale(client, "plan");
      }
    },
  });
}
