import { QueryClient } from "@tanstack/react-query";
import { beforeEach, expect, test } from "vitest";

import { stale } from "./live";

const ASKED = ["log", "rigs", "recipes", "kits", "jobs", "catalogue", "own", "answer", "steps"];
let client: QueryClient;

beforeEach(() => {
  client = new QueryClient();
  for (const key of ASKED) client.setQueryData([key], {});
});

const after = (kind: string, what = "saved", subject = "") => {
  stale(client, { sequence: 1, at: "", kind, id: "one", what, revision: 2, subject });
  return ASKED.filter((key) => client.getQueryState([key])?.isInvalidated);
};

test("each kind of document makes its own stale", () => {
  expect(after("kit")).toEqual(["log", "kits"]);
  client.clear();
});

test("a step that was ticked leaves the documents as they are", () => {
  stale(client, { sequence: 1, at: "", kind: "rig", id: "one", what: "done", revision: 2, subject: "wake:body" });
  expect(client.getQueryState(["rigs"])?.isInvalidated).toBe(false);
});

test("a job of the crew's is no change of the catalogue", () => {
  expect(after("job")).toEqual(["log", "jobs"]);
});

test("a kind that this page does not know makes nothing stale but the log", () => {
  expect(after("call-sheet")).toEqual(["log"]);
});
