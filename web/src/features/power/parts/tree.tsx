import { usePanel } from "../../../rig";
import { Flag } from "../../../ui";
import { laidOut, rated, thickness, volts, type Placed, type Tree, type When } from "../model";

const BOX = { width: 126, height: 78 };
const PITCH = { column: 186, row: 90 };

/** The feeds of every battery that feeds more than its own device, drawn: the thicker a branch, the more watts. */
export function FeedTree({ tree, when }: { tree: Tree; when: When }) {
  const trees = tree.batteries.filter((one) => one.feeds.length > 1).map((one) => laidOut(tree, one.device));
  const most = Math.max(1, ...tree.devices.map((one) => one.at[when]?.watts ?? 0));
  if (trees.length === 0) return <p className="text-soft">Everything runs from its own battery.</p>;
  return (
    <div className="flex flex-wrap gap-x-8 gap-y-4 overflow-x-auto pb-1" tabIndex={0} role="group" aria-label="Who runs from what">
      {trees.map((placed) => (
        <Drawn key={placed[0]!.device.device} placed={placed} when={when} most={most} />
      ))}
    </div>
  );
}

function Drawn({ placed, when, most }: { placed: Placed[]; when: When; most: number }) {
  const columns = 1 + Math.max(...placed.map((one) => one.column));
  const rows = 1 + Math.max(...placed.map((one) => one.row));
  const width = (columns - 1) * PITCH.column + BOX.width;
  const height = (rows - 1) * PITCH.row + BOX.height;
  return (
    <div className="relative shrink-0" style={{ width, height }}>
      <svg aria-hidden width={width} height={height} className="absolute inset-0">
        {placed.map((one) => one.from && <Branch key={one.device.device} of={one} when={when} most={most} />)}
      </svg>
      {placed.map((one) => (
        <div key={one.device.device}>
          {one.lead && <Lead of={one} />}
          <Box of={one} when={when} />
        </div>
      ))}
    </div>
  );
}

const left = (of: Placed) => of.column * PITCH.column;
const middle = (of: Placed) => of.row * PITCH.row + BOX.height / 2;

function Branch({ of, when, most }: { of: Placed; when: When; most: number }) {
  const from = of.from!;
  const [x1, y1, x2, y2] = [left(from) + BOX.width, middle(from), left(of), middle(of)];
  return (
    <path
      d={y1 === y2 ? `M${x1} ${y1} H${x2}` : `M${x1 - BOX.width / 2} ${y1} V${y2 - 12} q0 12 12 12 H${x2}`}
      className={`fill-none ${of.lead?.closest ? "stroke-warn" : "stroke-power"}`}
      strokeWidth={thickness(of.device.at[when]?.watts ?? 0, most)}
    />
  );
}

/** The flag of a lead on its branch, with how near it is to its limit. */
function Lead({ of }: { of: Placed }) {
  const lead = of.lead!;
  return (
    <div
      className="absolute flex flex-col items-center text-[13px] leading-tight"
      style={{ left: left(of) - 60, top: middle(of) - 31, width: 60 }}
      title={`${lead.words}: ${Math.round(1000 * lead.ohm)} mΩ`}
    >
      <Flag tag={lead.tag} family="power" />
      <span className={`mt-2.5 rounded-sm bg-panel px-1 tabular-nums ${lead.closest ? "font-bold text-warn" : "text-soft"}`}>
        {lead.share > 0.8 && "▲"}
        {Math.round(100 * lead.share)} %
      </span>
    </div>
  );
}

function Box({ of, when }: { of: Placed; when: When }) {
  const { show } = usePanel();
  const { device } = of;
  const flows = device.at[when];
  const dark = !flows;
  return (
    <button
      type="button"
      onClick={() => show({ kind: "device", id: device.device })}
      className={`absolute flex flex-col justify-center overflow-hidden rounded-md border-2 bg-raised px-2 text-left leading-tight hover:border-lead ${dark ? "border-bad" : device.near ? "border-warn" : of.from ? "border-edge" : "border-power"}`}
      style={{ left: left(of), top: of.row * PITCH.row, ...BOX }}
    >
      <span className="truncate text-[15px] font-semibold">{device.name}</span>
      <span className="flex items-baseline justify-between gap-1 tabular-nums">
        <span className="text-lg font-bold">{dark ? "dark" : volts(flows.volts)}</span>
        <span className="text-[13px] text-soft">{flows && `${flows.watts.toFixed(flows.watts < 10 ? 1 : 0)} W`}</span>
      </span>
      <span className="text-[13px] text-soft tabular-nums">
        {device.near && "▲ "}
        {device.lowest_v != null ? `needs ${rated(device.lowest_v)}` : of.from ? "" : "its battery"}
      </span>
    </button>
  );
}
