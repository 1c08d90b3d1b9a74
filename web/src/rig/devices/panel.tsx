import type { Catalogue } from "../../api/client";
import { Button, Choose, NumberField, TickBox } from "../../ui";
import { DeviceFace } from "../faces/device-face";
import { faceOf } from "../faces/model";
import { BeforeYouPull } from "../parts/before-you-pull";
import { SidePanel } from "../parts/side-panel";
import { useAnswer } from "../use-answer";
import { useDraft } from "../use-draft";
import { usePanel } from "../use-panel";
import { Field, Words } from "./fields";
import { STAGE_CHOICES, withDeviceChanged, withoutDevice, withSetting, type Device } from "./model";

type Line = Catalogue["profiles"][number];

/** A device as it lies there: what is known of this very piece. What is not known stays so, and the sheet says to look. */
export function DevicePanel({ id }: { id: string }) {
  const { rig, edit } = useDraft();
  const { catalogue } = useAnswer();
  const { close } = usePanel();
  const device = rig.devices.find((one) => one.id === id);
  const profile = catalogue?.profiles.find((one) => one.id === device?.profile);
  if (!device || !profile) return null;
  const change = (part: Partial<Device>) => edit((now) => withDeviceChanged(now, id, part));
  const takeOut = () => {
    close();
    edit((now) => withoutDevice(now, id));
  };
  return (
    <SidePanel title={device.name ?? profile.name}>
      <p className="mb-3 text-soft">{profile.summary}</p>
      <Looks id={id} />
      <div className="grid grid-cols-2 gap-3">
        <Words label="Name" value={device.name} placeholder={profile.name} onTake={(name) => change({ name })} wide />
        <Words label="Tag" value={device.tag} placeholder="none" onTake={(tag) => change({ tag })} />
        <Firmware device={device} change={change} />
        <Field label="Place">
          <Choose
            label="Place"
            value={device.stage ?? profile.stage}
            choices={STAGE_CHOICES}
            onChange={(value) => change({ stage: value === profile.stage ? null : (value as Device["stage"]) })}
            className="w-full"
          />
        </Field>
        {(device.stage ?? profile.stage) === "off-gimbal" && (
          <Field label="How far from the gimbal">
            <NumberField
              label="How far from the gimbal"
              value={device.distance_m}
              unit="m"
              min={0.1}
              max={2000}
              step={0.5}
              placeholder="beside"
              onChange={(distance_m) => change({ distance_m })}
            />
          </Field>
        )}
        {profile.modes && (
          <Field label="Mode as found">
            <Choose
              label="Mode as found"
              value={device.mode ?? ""}
              choices={[{ value: "", label: "not looked yet" }, ...choices(profile.modes.values)]}
              onChange={(value) => change({ mode: value || null })}
              className="w-full"
            />
          </Field>
        )}
        {profile.battery && <Battery device={device} words={profile.battery} change={change} />}
      </div>
      <Licences device={device} profile={profile} change={change} />
      <SettingsAsFound device={device} profile={profile} change={change} />
      <div className="mt-4">
        <Words label="Note" value={device.note} placeholder="such as: left hinge is loose" onTake={(note) => change({ note })} wide />
      </div>
      <BeforeYouPull device={id} />
      <details className="mt-4">
        <summary className="flex min-h-11 cursor-pointer items-center font-semibold">What it is</summary>
        {profile.matters.map((line) => (
          <p key={line}>{line}</p>
        ))}
      </details>
      <Button className="mt-4" aria-label={`Take it out of the rig: ${device.name ?? profile.name}`} onClick={takeOut}>
        Take it out of the rig
      </Button>
    </SidePanel>
  );
}

/** The device, drawn, with what the plan plugs into it. */
function Looks({ id }: { id: string }) {
  const { answer } = useAnswer();
  const face = faceOf(answer, id);
  if (!answer || !face || face.sides.length === 0) return null;
  const tags = new Map(
    answer.plan.joins.flatMap(({ tag, link }) =>
      [link.a, link.b].flatMap((end) => (end.device === id ? [[end.endpoint, tag] as const] : [])),
    ),
  );
  return (
    <section aria-label="How it looks" className="mb-4">
      <DeviceFace face={face} tags={(port) => tags.get(port)} />
    </section>
  );
}

const choices = (values: Record<string, string>) => Object.entries(values).map(([value, label]) => ({ value, label }));

type Part = { device: Device; change: (part: Partial<Device>) => void };

function Firmware({ device, change }: Part) {
  const wrong = (text: string) => (/^(\d+(\.\d+){0,3})?$/.test(text) ? "" : "Found something else; a firmware is written like 2.10.");
  return (
    <Words
      label="Firmware"
      value={device.firmware}
      placeholder="not looked yet"
      wrong={wrong}
      onTake={(firmware) => change({ firmware })}
    />
  );
}

function Battery({ device, words, change }: Part & { words: string }) {
  return (
    <div className="col-span-2">
      <p className="mb-0.5 text-sm text-soft">{words}</p>
      <div className="flex flex-wrap items-center gap-2">
        <NumberField
          label="Charge"
          value={device.charge_percent}
          unit="%"
          min={1}
          max={100}
          step={1}
          placeholder="full"
          onChange={(value) => change({ charge_percent: value === null ? null : Math.round(value) })}
        />
        <NumberField
          label="Spare batteries"
          value={device.spare_batteries}
          unit="charged spares"
          min={0}
          max={99}
          step={1}
          placeholder="?"
          onChange={(value) => change({ spare_batteries: value === null ? null : Math.round(value) })}
        />
      </div>
    </div>
  );
}

function Licences({ device, profile, change }: Part & { profile: Line }) {
  if (profile.licences.length === 0) return null;
  const loaded = new Set(device.licences);
  const turn = (licence: string) =>
    change({
      licences: loaded.has(licence) ? (device.licences ?? []).filter((one) => one !== licence) : [...(device.licences ?? []), licence],
    });
  return (
    <fieldset className="mt-4">
      <legend className="font-semibold">Licences loaded</legend>
      {profile.licences.map((licence) => (
        <label key={licence} className="flex min-h-11 items-center gap-3">
          <TickBox checked={loaded.has(licence)} onChange={() => turn(licence)} className="size-8" />
          {licence}
        </label>
      ))}
    </fieldset>
  );
}

function SettingsAsFound({ device, profile, change }: Part & { profile: Line }) {
  if (profile.settings.length === 0) return null;
  return (
    <section className="mt-4">
      <h3 className="font-semibold">Menu settings as found</h3>
      <p className="text-sm text-soft">Left at “not looked yet”, a setting counts as from the factory, and the sheet says to look.</p>
      <ul>
        {profile.settings.map((setting) => (
          <li key={setting.id} className="flex items-center gap-2 border-b border-edge py-1">
            <span className="min-w-0 flex-1 leading-tight">
              {setting.name}
              <span className="block text-sm text-soft">{setting.where}</span>
            </span>
            <Choose
              label={setting.name}
              value={device.settings?.[setting.id] ?? ""}
              choices={[{ value: "", label: "not looked yet", note: setting.values[setting.factory] ?? "" }, ...choices(setting.values)]}
              onChange={(value) => change(withSetting(device, setting.id, value || null))}
              className="max-w-44"
            />
          </li>
        ))}
      </ul>
    </section>
  );
}
