import type { DeviceView, Socket } from "../../../api/client";
import { Button } from "../../../ui";
import { atHand, short, type InHand } from "./model";
import type { Hands } from "./use-hands";

/** A tapped port: what is in it, what can be done with that, and what at hand would go in. */
export function PortCard({ hands, look, socket, onClose }: { hands: Hands; look: DeviceView; socket: Socket; onClose: () => void }) {
  const { bench } = hands;
  if (!bench) return null;
  const inIt = (look.joined ?? []).filter(({ port }) => port === socket.id);
  const offers = bench.offers?.filter(({ where, part, act }) => where === "port" && part === socket.id && !isByCable(act)) ?? [];
  const { lying, planned, others } = atHand(bench);
  const fits = (cable: InHand) => cable.ends.includes(socket.connector);
  const choices = [
    ...lying.filter(fits).map((cable) => ({ cable, isLaidOut: true })),
    ...[...planned, ...others].filter(fits).map((cable) => ({ cable, isLaidOut: false })),
  ];
  const take = ({ cable, isLaidOut }: (typeof choices)[number]) => {
    hands.take(cable, isLaidOut, { device: look.device, port: socket.id, connector: socket.connector });
    onClose();
  };
  return (
    <section aria-label={`Port ${socket.marking}`} className="mt-3 rounded-md border-2 border-lead bg-raised p-3">
      <header className="flex items-start justify-between gap-2">
        <p className="leading-tight">
          <b className="text-lg">“{socket.marking}”</b> {socket.place} · {socket.plug}
          {inIt.map((one) => (
            <span key={one.tag} className="block">
              In it: <b>{one.tag}</b> to {one.to}
              {one.held && ", one plug hangs beside its port"}
            </span>
          ))}
          {socket.note && <span className="block text-sm text-soft">{socket.note}</span>}
        </p>
        <Button weight="quiet" onClick={onClose}>
          Close
        </Button>
      </header>
      <div className="mt-2 flex flex-wrap gap-1.5">
        {offers.map((offer) => (
          <Button key={offer.says} className="text-left text-sm" onClick={() => hands.go({ kind: "act", act: offer.act })}>
            {short(offer.says, look.name)}
          </Button>
        ))}
        {inIt.length === 0 &&
          choices.map((choice) => (
            <Button key={`${choice.cable.tag} ${choice.cable.cable}`} className="text-left text-sm" onClick={() => take(choice)}>
              Plug in {choice.isLaidOut || choice.cable.planned ? `${choice.cable.tag} · ` : ""}
              {choice.cable.name}
            </Button>
          ))}
      </div>
      {inIt.length === 0 && offers.length + choices.length === 0 && <p className="text-soft">Nothing here goes into it.</p>}
    </section>
  );
}

/** A cable goes in by both its plugs: that is begun at the port, and ends at another. */
const isByCable = (act: { kind?: string; direct?: boolean }) => act.kind === "plug" && !act.direct;
