import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { Refusal, type Profile } from "../../api/client";
import { useSketch } from "../../keeping";
import { catalogueQuery } from "../../rig";
import { copyOf } from "./model";
import { headsOfOwn, keepPack, profileOf } from "./queries";

/** What is worked at, and in which revision it is kept, if it is: it becomes the next one of that, and of nothing else. */
export type Sketch = { profile: Profile; kept?: { id: string; revision: number }; isSafe?: boolean };
type ToKeep = { text: string; file: string; over?: Record<string, number> };

/** The device on the workshop's table: begun, changed, kept as a revision of one's own. */
export function useSketched() {
  const client = useQueryClient();
  const { data: catalogue } = useQuery(catalogueQuery);
  const [sketch, setSketch] = useSketch<Sketch>("workshop/device");
  const draft = sketch?.profile;
  const start = useMutation({
    mutationFn: profileOf,
    onSuccess: (profile) => setSketch({ profile: copyOf(profile, catalogue?.profiles.map((one) => one.id) ?? []) }),
  });
  const keep = useMutation({
    mutationFn: ({ text, file, over }: ToKeep) => keepPack(text, file, over),
    onSuccess: ({ revisions }, { text }) => {
      const revision = draft && revisions[draft.id];
      // What was changed while it was on its way is not kept yet; what was kept before is, whatever came in on top of it.
      if (draft && revision)
        setSketch({ profile: draft, kept: { id: draft.id, revision }, isSafe: sketch.isSafe || text === JSON.stringify(draft) });
      // Every plan, matrix and answer kept in this page was made with the catalogue before.
      client.removeQueries({ type: "inactive" });
      return Promise.all([["catalogue"], ["own"]].map((queryKey) => client.invalidateQueries({ queryKey })));
    },
  });
  const replace = useMutation({
    mutationFn: async (what: ToKeep) => keep.mutateAsync({ ...what, over: await headsOfOwn() }),
  });
  const isKept = draft !== undefined && sketch?.kept?.id === draft.id;
  return {
    sketch,
    setSketch,
    isKept,
    start,
    keep,
    replace,
    refused: [replace.error, keep.error].find((one) => one instanceof Refusal),
    change: (profile: Profile) => setSketch({ ...sketch, profile, isSafe: false }),
    keepDraft: () =>
      keep.mutate({
        text: JSON.stringify(draft),
        file: "",
        over: isKept && sketch?.kept ? { [sketch.kept.id]: sketch.kept.revision } : {},
      }),
  };
}

export type Sketched = ReturnType<typeof useSketched>;
