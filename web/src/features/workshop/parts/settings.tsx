import type { Profile } from "../../../api/client";
import { Button, Choose, Empty, Panel, TextField } from "../../../ui";
import { idFrom } from "../model";

type Setting = NonNullable<Profile["settings"]>[number];
const TAKES = [
  { value: "at-once", label: "takes at once" },
  { value: "at-reconnect", label: "takes at the next connection" },
  { value: "at-boot", label: "takes at the next start" },
];

/** The menu items that matter: where each is, what it can be, when a change takes. */
export function Settings({ draft, onChange }: { draft: Profile; onChange: (draft: Profile) => void }) {
  const settings = draft.settings ?? [];
  const put = (number: number, change: Partial<Setting>) =>
    onChange({ ...draft, settings: settings.map((old, place) => (place === number ? { ...old, ...change } : old)) });
  return (
    <Panel title="Its menu">
      {settings.length === 0 && <Empty title="No setting that matters">Add one where a promise depends on a menu item.</Empty>}
      <ul className="space-y-2">
        {settings.map((setting, number) => (
          <li key={setting.id} className="rounded-md bg-raised p-2">
            <div className="flex flex-wrap gap-2">
              <TextField label="Name" value={setting.name} onChange={(name) => put(number, { name })} />
              <TextField
                label="Menu path"
                value={setting.path.join(" › ")}
                onChange={(text) => put(number, { path: text.split(/\s*[›>]\s*/).filter(Boolean) })}
              />
            </div>
            <div className="mt-2 flex flex-wrap items-center gap-2">
              from the factory
              <Choose
                label={`Factory value of ${setting.name}`}
                value={setting.factory}
                choices={setting.values.map((value) => ({ value: value.id, label: value.name }))}
                onChange={(factory) => put(number, { factory })}
              />
              <Choose
                label={`When ${setting.name} takes`}
                value={setting.takes_effect ?? "at-once"}
                choices={TAKES}
                onChange={(value) => put(number, { takes_effect: value as Setting["takes_effect"] })}
              />
              <Button
                weight="quiet"
                className="ml-auto"
                onClick={() => onChange({ ...draft, settings: settings.filter((_, place) => place !== number) })}
              >
                Drop
              </Button>
            </div>
          </li>
        ))}
      </ul>
      <Button className="mt-2" onClick={() => onChange({ ...draft, settings: [...settings, fresh(settings)] })}>
        + setting
      </Button>
    </Panel>
  );
}

function fresh(settings: Setting[]): Setting {
  const name = `Setting ${settings.length + 1}`;
  const values = [
    { id: "off", name: "Off" },
    { id: "on", name: "On" },
  ];
  return { id: idFrom(name), name, path: ["Menu", name], values, factory: "off", takes_effect: "at-once" } as unknown as Setting;
}
