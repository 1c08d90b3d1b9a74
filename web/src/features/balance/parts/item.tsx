import { Choose, NumberField, Panel } from "../../../ui";
import { useDraft } from "../../../rig";
import { changed, HOW, SIDES, type Device, type Gimbal, type Item, type Sits } from "../model";

/** What is chosen in the picture: what it weighs, where its weight pulls, where it sits; and to say so better. */
export function ItemPanel({ gimbal, item }: { gimbal: Gimbal; item: Item }) {
  const { rig, edit } = useDraft();
  const device = rig.devices.find((one) => one.id === item.key);
  const { forward, right, up } = item.moments_nm;
  const change = (part: Partial<Device>) => edit((now) => changed(now, item.key, (one) => ({ ...one, ...part })));
  return (
    <Panel title={item.name}>
      <p>{item.says}</p>
      <dl className="mt-2 grid grid-cols-3 gap-2 text-center">
        <Moment name="tilt, fore and aft" value={forward} more="forward" less="back" />
        <Moment name="roll" value={right} more="to the right" less="to the left" />
        <Moment name="tilt, height" value={up} more="above" less="below" />
      </dl>
      <p className="mt-2 text-soft">{HOW[item.how]}</p>
      {device && item.how !== "mated" && item.how !== "plate" && <Place gimbal={gimbal} item={item} device={device} change={change} />}
      {device && <Weighed item={item} device={device} change={change} />}
    </Panel>
  );
}

function Moment({ name, value, more, less }: { name: string; value: number; more: string; less: string }) {
  const isNought = Math.abs(value) < 0.005;
  return (
    <div className="rounded-md bg-raised p-2">
      <dt className="text-sm text-soft">{name}</dt>
      <dd className="font-bold tabular-nums">{isNought ? "0" : Math.abs(value).toFixed(2)} N m</dd>
      <dd className="text-sm">{isNought ? "on the axis" : value > 0 ? more : less}</dd>
    </div>
  );
}

type Edits = { item: Item; device: Device; change: (part: Partial<Device>) => void };
const UNSAID = "?";

function Place({ gimbal, item, device, change }: Edits & { gimbal: Gimbal }) {
  const bases = (gimbal.items ?? []).filter((one) => one.key !== item.key && one.size.right > 0 && one.on !== item.key);
  const sits = device.sits;
  const say = (part: Partial<Sits>) => {
    const on = sits?.on ?? item.on ?? bases[0]?.key ?? null;
    change({ sits: { on, rides: "plate", side: "top", from_left: 0.5, from_top: 0.5, ...sits, measured: undefined, ...part } as Sits });
  };
  return (
    <div className="mt-3 grid grid-cols-2 gap-2">
      <Choose
        label="It sits on"
        value={sits ? (sits.on ?? gimbal.gimbal) : UNSAID}
        choices={[
          { value: UNSAID, label: "not said" },
          { value: gimbal.gimbal, label: "the gimbal's plate" },
          ...bases.map((one) => ({ value: one.key, label: one.name })),
        ]}
        onChange={(value) => (value === UNSAID ? change({ sits: null }) : say({ on: value === gimbal.gimbal ? null : value }))}
      />
      <Choose
        label="On which side"
        value={sits?.side ?? (item.how === "assumed" ? UNSAID : "top")}
        choices={[...(sits ? [] : [{ value: UNSAID, label: "which side?" }]), ...SIDES]}
        onChange={(value) => value !== UNSAID && say({ side: value as Sits["side"] })}
      />
    </div>
  );
}

function Weighed({ item, device, change }: Edits) {
  const centre = device.centre ?? null;
  const at = (part: Partial<NonNullable<Device["centre"]>>) =>
    change({ centre: { forward_mm: 0, right_mm: 0, up_mm: 0, ...centre, ...part } });
  return (
    <div className="mt-3 flex flex-wrap gap-x-4 gap-y-2">
      <span className="flex items-center gap-2">
        Weighed
        <NumberField
          label="Weighed"
          value={device.mass_g}
          unit="g"
          min={1}
          max={30000}
          step={10}
          placeholder={String(Math.round(item.mass_g))}
          onChange={(mass_g) => change({ mass_g })}
        />
      </span>
      <span className="basis-full">Where it balances, from its mount:</span>
      {(["forward_mm", "up_mm", "right_mm"] as const).map((key) => (
        <span key={key} className="flex items-center gap-2">
          {{ forward_mm: "forward", up_mm: "up", right_mm: "right" }[key]}
          <NumberField
            label={`Its weight from its mount, ${{ forward_mm: "forward", up_mm: "up", right_mm: "right" }[key]}`}
            value={centre?.[key]}
            unit="mm"
            min={-500}
            max={500}
            step={1}
            placeholder="?"
            onChange={(value) => (value === null ? change({ centre: null }) : at({ [key]: value }))}
          />
        </span>
      ))}
    </div>
  );
}
