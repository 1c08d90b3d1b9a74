import { useQuery } from "@tanstack/react-query";

import { Refusal, type Answer, type Schemas } from "../../../api/client";
import { Button, Dialog, Flag } from "../../../ui";
import { BeforeYouPull, deviceName, Problems, useAnswer, useDraft } from "../../../rig";
import { cablePin, withPin } from "../pins";
import { joinQuery } from "../queries";

type Join = Answer["plan"]["joins"][number];

/** One join: why this cable, what else would do, what hangs on it; and pins, for who knows better. */
export function JoinDrawer({ join, onClose }: { join: Join; onClose: () => void }) {
  const { rig, edit } = useDraft();
  const { answer, isPlanning } = useAnswer();
  const { data, error } = useQuery({ ...joinQuery(rig, join.link.id), enabled: !isPlanning });
  const row = answer?.drawing.schedule.find((one) => one.link === join.link.id);
  const pin = (next: Parameters<typeof withPin>[1]) => {
    edit((now) => withPin(now, next));
    onClose();
  };
  return (
    <Dialog
      open
      onClose={onClose}
      side="right"
      title={
        <span className="flex items-center gap-3">
          <Flag tag={join.tag} family={join.family} /> {row?.item}
        </span>
      }
    >
      <p>{row?.from_words}</p>
      <p>{row?.to_words}</p>
      {error && <Problems refusal={error instanceof Refusal ? error : undefined} />}
      {!data && !error && <p className="mt-4 text-soft">Asking.</p>}
      {data && (
        <div className="mt-4 space-y-4">
          <Part title="Why this one">
            <p>{data.why}</p>
            {join.link.kind === "cable" && (
              <Button className="mt-2" onClick={() => pin(cablePin(join.link, join.link.cable ?? null))}>
                Pin it: this cable, here
              </Button>
            )}
          </Part>
          <Instead others={data.instead} onPin={(cable) => pin(cablePin(join.link, cable))} />
          <Part title="What hangs on it">
            {data.depends.length === 0 && <p className="text-soft">Nothing that was promised.</p>}
            <ul className="list-disc pl-5">
              {data.depends.map((words) => (
                <li key={words}>{words}</li>
              ))}
            </ul>
            <p className="mt-1">{data.without}</p>
          </Part>
          <BeforeYouPull join={join} />
          <Otherwise join={join} onPin={pin} />
        </div>
      )}
    </Dialog>
  );
}

/** Other cables that would do here, and what they cost more or less. */
function Instead({ others, onPin }: { others: Schemas["JoinAnswer"]["instead"]; onPin: (cable: string | null) => void }) {
  return (
    <Part title="What else would do">
      {others.length === 0 && <p className="text-soft">Nothing that is here.</p>}
      <ul className="space-y-2">
        {others.map((other) => (
          <li key={other.says} className="flex flex-wrap items-center justify-between gap-2 rounded-md bg-raised px-3 py-2">
            <span>
              {other.says}{" "}
              <span className="text-soft tabular-nums">
                {other.points > 0
                  ? `${other.points} points dearer`
                  : other.points < 0
                    ? `${-other.points} points cheaper`
                    : "the same price"}
              </span>
            </span>
            <Button aria-label={`Pin instead: ${other.says}`} onClick={() => onPin(other.cable ?? null)}>
              Pin instead
            </Button>
          </li>
        ))}
      </ul>
    </Part>
  );
}

/** Decisions that keep it from being joined like this at all. */
function Otherwise({ join, onPin }: { join: Join; onPin: (pin: Parameters<typeof withPin>[1]) => void }) {
  const { rig } = useDraft();
  const { answer } = useAnswer();
  return (
    <Part title="Decide otherwise">
      <div className="flex flex-wrap gap-2">
        {join.link.kind !== "radio" &&
          [join.link.a, join.link.b].map((end) => (
            <Button
              key={`${end.device}.${end.endpoint}`}
              onClick={() => onPin({ kind: "keep-out", at: { device: end.device, port: end.endpoint } })}
            >
              Keep out of {marking(answer, end.device, end.endpoint)} of {deviceName(rig, end.device, answer)}
            </Button>
          ))}
        {[join.link.a, join.link.b].map((end) => (
          <Button key={end.device} onClick={() => onPin({ kind: "off", device: end.device })}>
            Leave {deviceName(rig, end.device, answer)} in its case
          </Button>
        ))}
      </div>
    </Part>
  );
}

function marking(answer: Answer | undefined, device: string, port: string): string {
  const found = answer?.drawing.devices.find((one) => one.id === device)?.ports.find((one) => one.id === port);
  return found ? `“${found.marking}”` : port;
}

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section>
      <h3 className="mb-1 font-semibold">{title}</h3>
      {children}
    </section>
  );
}
