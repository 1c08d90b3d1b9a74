import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";

import { Refusal, type Schemas } from "../../../api/client";
import { Panel, Pictogram, type PictogramName } from "../../../ui";
import { Problems, rigsQuery } from "../../../rig";
import { examplesQuery, openExample } from "../queries";

/** Opens an example as a rig of one's own, and goes there; to its kit where it comes with one. */
export function useOpenExample() {
  const client = useQueryClient();
  const go = useNavigate();
  return useMutation({
    mutationFn: openExample,
    onSuccess: (opened) => {
      void client.invalidateQueries({ queryKey: rigsQuery.queryKey });
      void client.invalidateQueries({ queryKey: ["kits"] });
      void go(opened.kit ? `/kit/${opened.kit}` : `/rigs/${opened.rigs[0]?.document.id ?? ""}`);
    },
  });
}

const TOPICS: { topic: Schemas["ExampleLine"]["topic"]; name: string; picture: PictogramName }[] = [
  { topic: "control", name: "Who controls what, and through what", picture: "controller" },
  { topic: "lens", name: "Lens and motors", picture: "lens" },
  { topic: "pictures", name: "Pictures", picture: "picture" },
  { topic: "sockets", name: "Sockets, plugs and leads", picture: "plug" },
  { topic: "power", name: "Power and hours", picture: "battery" },
  { topic: "gimbal", name: "On the gimbal", picture: "gimbal" },
  { topic: "several", name: "Several cameras", picture: "camera-body" },
];

/** One example for each situation of the trade; tapped, it opens as a rig of one's own. */
export function Examples() {
  const { data: examples } = useQuery(examplesQuery);
  const open = useOpenExample();
  return (
    <Panel title="Examples" scroll className="lg:max-h-[calc(100vh-8.5rem)]">
      {open.error && <Problems refusal={open.error instanceof Refusal ? open.error : undefined} />}
      {TOPICS.map(({ topic, name, picture }) => (
        <section key={topic}>
          <h3 className="mt-2 flex items-center gap-2 font-semibold text-lead">
            <Pictogram name={picture} size={28} /> {name}
          </h3>
          <ol>
            {(examples ?? [])
              .filter((one) => one.topic === topic)
              .map((example) => (
                <li key={example.id} className="border-b border-edge">
                  <button
                    type="button"
                    disabled={open.isPending}
                    onClick={() => open.mutate(example.id)}
                    className="flex w-full gap-3 py-2 text-left leading-snug hover:bg-raised"
                  >
                    <span aria-hidden className="w-7 shrink-0 text-right text-lg font-bold text-lead tabular-nums">
                      {example.number}
                    </span>
                    <span className="min-w-0">
                      <span className="block font-semibold">{example.name}</span>
                      <span className="line-clamp-2 text-sm text-soft">{example.teaches}</span>
                      <span className="text-sm">
                        {example.rigs.length > 1 && `${example.rigs.length} cameras, `}
                        {example.kept} of {example.promised} promises hold
                      </span>
                    </span>
                  </button>
                </li>
              ))}
          </ol>
        </section>
      ))}
    </Panel>
  );
}
