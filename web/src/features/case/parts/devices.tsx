import { useMemo } from "react";

import { useAnswer, useDraft, usePanel } from "../../../rig";
import { Button, Empty, ofKind, Panel, Pictogram, useShortcuts } from "../../../ui";
import { notLooked } from "../model";

/** The devices as they lie there: tap one to say what is known of it. */
export function Devices() {
  const { rig } = useDraft();
  const { catalogue, answer } = useAnswer();
  const { opened, show } = usePanel();
  const profiles = new Map(catalogue?.profiles.map((one) => [one.id, one]));
  const used = new Set(answer?.drawing.devices.filter((device) => device.used).map((device) => device.id));
  useShortcuts(useMemo(() => [{ keys: "d", does: "Take a device from the shelf", run: () => show({ kind: "shelf" }) }], [show]));
  return (
    <Panel
      title="Devices"
      actions={
        <span className="flex flex-wrap gap-2">
          <Button weight="quiet" onClick={() => show({ kind: "about" })}>
            About this rig
          </Button>
          <Button weight={rig.devices.length === 0 ? "lead" : "plain"} onClick={() => show({ kind: "shelf" })}>
            Take from the shelf
          </Button>
        </span>
      }
      scroll
    >
      {rig.devices.length === 0 && (
        <Empty title="The case is empty">Take a body, a lens, a gimbal and whatever else lies there from the shelf.</Empty>
      )}
      <ul>
        {rig.devices.map((device) => {
          const profile = profiles.get(device.profile);
          const name = device.name ?? profile?.name ?? device.profile;
          const unknown = notLooked(device, profile);
          const isOpen = opened?.kind === "device" && opened.id === device.id;
          return (
            <li key={device.id} className="border-b border-edge">
              <button
                type="button"
                aria-pressed={isOpen}
                onClick={() => show({ kind: "device", id: device.id })}
                className={`flex min-h-14 w-full items-center gap-3 px-2 py-1 text-left leading-tight ${isOpen ? "bg-raised shadow-[inset_6px_0_0_var(--lead)]" : "hover:bg-raised"}`}
              >
                <Pictogram name={ofKind(profile?.like ?? "")} size={32} className="text-soft" />
                <span className="min-w-0 flex-1">
                  <span className="font-semibold">{name}</span>
                  <span className="block text-sm text-soft">
                    {[profile?.kind_name, device.tag, device.firmware && `firmware ${device.firmware}`].filter(Boolean).join(", ")}
                  </span>
                  {unknown.length > 0 && <span className="block text-sm">Not looked yet: {unknown.join(", ")}</span>}
                </span>
                <span className={`text-sm ${used.has(device.id) ? "" : "text-soft"}`}>
                  {used.has(device.id) ? "in use" : "stays in its case"}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}
