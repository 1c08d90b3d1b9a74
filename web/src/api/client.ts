import createClient from "openapi-fetch";

import type { components, paths } from "./generated";

export type Schemas = components["schemas"];
export type Rig = Schemas["Rig"];
export type RigPromise = Rig["promises"][number];
export type ControlPromise = Schemas["ControlPromise"];
export type Saved = Schemas["Saved_Rig_"];
export type Answer = Schemas["RigAnswer"];
export type Plan = Schemas["Plan"];
export type Drawing = Schemas["Drawing"];
export type Step = Schemas["Step"];
export type Run = Schemas["Run"];
export type Proof = Schemas["Proof"];
export type DeviceView = Schemas["DeviceView"];
export type Catalogue = Schemas["CatalogueAnswer"];
export type Problem = Schemas["Problem"];
export type ErrorAnswer = Schemas["ErrorAnswer"];
export type StaleAnswer = Schemas["StaleAnswer"];

export type Alternative = Schemas["Alternative"];
export type Figures = Schemas["Figures"];
export type PictureWay = Schemas["PictureWay"];
export type Takes = Schemas["Takes"];
export type Change = Schemas["Change"];
export type Matrix = Schemas["Matrix"];
export type Cell = Schemas["Cell"];
export type Advice = Schemas["Advice"];
export type JoinAnswer = Schemas["JoinAnswer"];
export type PinCost = Schemas["PinCost"];
export type Pin = NonNullable<Rig["pins"]>[number];
export type SavedKit = Schemas["Saved_Kit_"];
export type Kit = SavedKit["document"];
export type KitPreview = Schemas["Preview"];
export type KitLine = Schemas["KitLine"];
export type Day = Schemas["Day"];
export type ExampleLine = Schemas["ExampleLine"];
export type Profile = Schemas["Profile"];
export type Face = Schemas["Face"];
export type FaceSide = Schemas["FaceSide"];
export type Socket = Schemas["Socket"];
export type Outline = Schemas["Outline"];

export type Stands = Schemas["Stands"];
export type Reading = Schemas["Entry"]["readings"][number];
export type LogLine = Schemas["Line"];

export const api = createClient<paths>({ baseUrl: globalThis.location?.origin });

const PERSON = "isotact/person";
/** Who works at this screen, as they call themselves; the browser remembers it. */
export const person = {
  key: PERSON,
  now: () => localStorage.getItem(PERSON) ?? "",
  is: (name: string) => localStorage.setItem(PERSON, name.trim().slice(0, 60)),
};

const JOIN = "/join";

// What is changed from here goes into the log under that name; who joined by a code is known by that instead.
api.use({
  onRequest({ request }) {
    if (request.method !== "GET" && person.now()) request.headers.set("Isotact-Person", encodeURIComponent(person.now()));
  },
  onResponse({ response }) {
    // Whose sign-in is over, or who never joined, finds the way in; what was ticked waits in line meanwhile.
    if (response.status === 401 && location.pathname !== JOIN) location.assign(JOIN);
  },
});

/** A refusal by the server, with its words and every problem at its place. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly answer: ErrorAnswer,
  ) {
    super(answer.message);
  }
}

/** What an answer that is no data says; something between us and the server may have written it. */
function inWords(error: unknown, status: number): ErrorAnswer {
  const said = error as Partial<ErrorAnswer> | undefined;
  if (typeof said?.message === "string" && said.message) return { code: "", path: "", hint: "", problems: [], ...said } as ErrorAnswer;
  return {
    code: "no-words",
    message: `The server answered ${status}, and did not say why.`,
    hint: "Try again; if it comes back, start Isotact anew.",
    path: "",
    problems: [],
  };
}

/** The data of an answer; a Refusal when there is none. */
export async function told<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer;
  try {
    answer = await request;
  } catch {
    throw new Refusal(0, {
      code: "no-server",
      message: "The server on this laptop does not answer.",
      hint: "Look whether it still runs, then try again.",
      path: "",
      problems: [],
    });
  }
  if (answer.error !== undefined || !answer.response.ok)
    throw new Refusal(answer.response.status, inWords(answer.error, answer.response.status));
  return answer.data as T;
}
