import type { ComponentType } from "react";

import type { Screen } from "./rig";
import { counted } from "./ui";

/** Every screen of a rig, in the order of the work, part by part. A new one is added here and nowhere else. */
export const SCREENS: Screen[] = [
  {
    path: "case",
    name: "Case",
    key: "1",
    part: "Plan",
    small: true,
    tells: ({ rig }) => counted(rig.devices.length, "device"),
    load: async () => ({ Component: (await import("./features/case")).CaseScreen }),
  },
  {
    path: "functions",
    name: "Functions",
    key: "2",
    part: "Plan",
    small: false,
    needs: "devices",
    tells: () => "who drives it",
    load: async () => ({ Component: (await import("./features/matrix")).MatrixScreen }),
  },
  {
    path: "wiring",
    name: "Wiring",
    key: "3",
    part: "Plan",
    small: true,
    needs: "promises",
    tells: ({ answer }) =>
      answer ? counted(answer.plan.joins.filter((join) => join.link.kind === "cable").length, "cable") : "not planned",
    load: async () => ({ Component: (await import("./features/wiring")).WiringScreen }),
  },
  {
    path: "power",
    name: "Power",
    key: "w",
    part: "Plan",
    small: false,
    needs: "promises",
    tells: ({ answer }) => {
      const first = answer?.hours[0];
      return first ? `${first.value}` : "volts, hours";
    },
    load: async () => ({ Component: (await import("./features/power")).PowerScreen }),
  },
  {
    path: "other-ways",
    name: "Other ways",
    key: "4",
    part: "Plan",
    small: false,
    needs: "promises",
    tells: ({ rig }) => ((rig.pins ?? []).length > 0 ? `${(rig.pins ?? []).length} pinned` : "compared"),
    load: async () => ({ Component: (await import("./features/alternatives")).AlternativesScreen }),
  },
  {
    path: "schools",
    name: "Schools",
    key: "5",
    part: "Plan",
    small: false,
    needs: "devices",
    tells: () => "crews differ",
    load: async () => ({ Component: (await import("./features/schools")).SchoolsScreen }),
  },
  {
    path: "balance",
    name: "Balance",
    key: "m",
    part: "Build",
    small: true,
    needs: "promises",
    tells: ({ answer }) => (answer?.sheet.steps.some((step) => step.stage === "balance") ? "its marks" : "no gimbal"),
    load: async () => ({ Component: (await import("./features/balance")).BalanceScreen }),
  },
  {
    path: "run-sheet",
    name: "Run sheet",
    key: "6",
    part: "Build",
    small: true,
    needs: "promises",
    tells: ({ answer, ticks }) => {
      const steps = (answer?.since_built ?? answer?.sheet)?.steps ?? [];
      if (answer?.since_built && steps.length === 0) return "stands as built";
      return `${steps.filter((step) => step.id in ticks).length} of ${steps.length} done`;
    },
    load: async () => ({ Component: (await import("./features/runsheet")).RunSheetScreen }),
  },
  {
    path: "bench",
    name: "Bench",
    key: "7",
    part: "Build",
    small: true,
    needs: "promises",
    tells: ({ run, states }) =>
      run ? `${Object.values(states).filter((state) => state === "benched" || state === "proven").length} proven` : "not run",
    load: async () => ({ Component: (await import("./features/bench")).BenchScreen }),
  },
  {
    path: "prove",
    name: "Prove",
    key: "8",
    part: "Prove",
    small: true,
    needs: "promises",
    tells: ({ rig, states }) => `${Object.values(states).filter((state) => state === "proven").length} of ${rig.promises.length}`,
    load: async () => ({ Component: (await import("./features/prove")).ProveScreen }),
  },
  {
    path: "find",
    name: "Find",
    key: "9",
    part: "Prove",
    small: true,
    needs: "promises",
    tells: () => "a fault",
    load: async () => ({ Component: (await import("./features/find")).FindScreen }),
  },
  {
    path: "train",
    name: "Train",
    key: "0",
    part: "Prove",
    small: false,
    needs: "promises",
    tells: () => "to find it",
    load: async () => ({ Component: (await import("./features/train")).TrainScreen }),
  },
];

/** A page outside of any rig. */
type Page = { path: string; load: () => Promise<{ Component: ComponentType }> };

const kits = async () => ({ Component: (await import("./features/kits")).KitScreen });
const jobs = async () => ({ Component: (await import("./features/job")).JobScreen });
const more = () => import("./features/start/more");

/** Every page outside of a rig, but the first one, which is there at once. A new one is added here and nowhere else. */
export const PAGES: Page[] = [
  { path: "/new", load: async () => ({ Component: (await more()).NewRigScreen }) },
  { path: "/bin", load: async () => ({ Component: (await more()).BinScreen }) },
  { path: "/kit", load: kits },
  { path: "/kit/:kitId", load: kits },
  { path: "/job", load: jobs },
  { path: "/job/:jobId", load: jobs },
  { path: "/job/:jobId/packs/:number", load: async () => ({ Component: (await import("./features/job")).RotaScreen }) },
  { path: "/workshop", load: async () => ({ Component: (await import("./features/workshop")).WorkshopScreen }) },
  { path: "/clock", load: async () => ({ Component: (await import("./features/prove")).ClockScreen }) },
  { path: "/recipes", load: async () => ({ Component: (await import("./features/recipes")).RecipesScreen }) },
  { path: "/log", load: async () => ({ Component: (await import("./features/log")).LogScreen }) },
  { path: "/share", load: async () => ({ Component: (await import("./features/share")).ShareScreen }) },
  { path: "/join", load: async () => ({ Component: (await import("./features/share")).JoinScreen }) },
];
