import type { Screen } from "./rig";

/** Every screen of a rig, in the order of the work. A new one is added here and nowhere else. */
export const SCREENS: Screen[] = [
  {
    path: "promises",
    name: "Promises",
    key: "1",
    small: true,
    tells: ({ rig, answer }) => (answer ? `${answer.plan.routes.length} of ${rig.promises.length} hold` : "not planned"),
    load: async () => ({ Component: (await import("./features/promises")).PromisesScreen }),
  },
  {
    path: "functions",
    name: "Functions",
    key: "5",
    small: false,
    tells: () => "what, from where",
    load: async () => ({ Component: (await import("./features/matrix")).MatrixScreen }),
  },
  {
    path: "schools",
    name: "Schools",
    key: "6",
    small: false,
    tells: () => "where crews differ",
    load: async () => ({ Component: (await import("./features/schools")).SchoolsScreen }),
  },
  {
    path: "wiring",
    name: "Wiring",
    key: "2",
    small: true,
    tells: ({ answer }) =>
      answer ? `${answer.plan.joins.filter((join) => join.link.kind === "cable").length} cables` : "not planned",
    load: async () => ({ Component: (await import("./features/wiring")).WiringScreen }),
  },
  {
    path: "other-ways",
    name: "Other ways",
    key: "7",
    small: false,
    tells: ({ rig }) => ((rig.pins ?? []).length > 0 ? `${(rig.pins ?? []).length} pinned` : "compared"),
    load: async () => ({ Component: (await import("./features/alternatives")).AlternativesScreen }),
  },
  {
    path: "run-sheet",
    name: "Run sheet",
    key: "3",
    small: true,
    tells: ({ answer, ticks }) => {
      const steps = answer?.sheet.steps ?? [];
      return `${steps.filter((step) => step.id in ticks).length} of ${steps.length} done`;
    },
    load: async () => ({ Component: (await import("./features/runsheet")).RunSheetScreen }),
  },
  {
    path: "bench",
    name: "Bench",
    key: "4",
    small: true,
    tells: ({ run, states }) =>
      run ? `${Object.values(states).filter((state) => state === "proven").length} proven` : "not run",
    load: async () => ({ Component: (await import("./features/bench")).BenchScreen }),
  },
];
