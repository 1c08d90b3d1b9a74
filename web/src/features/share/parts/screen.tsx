import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal, type Schemas } from "../../../api/client";
import { Page, Problems, useMe } from "../../../rig";
import { Button, Empty, Panel } from "../../../ui";
import { roleName, ROLES, spelt } from "../model";
import { endSignIn, leave, newCode, sharingQuery, type Role } from "../queries";

/** The way in for phones: a code to read or to photograph, who came in by it, and what it means to open the laptop. */
export function ShareScreen() {
  const { me } = useMe();
  if (me && !me.is_here) return <Joined person={me.person} role={me.role ?? "look"} />;
  return (
    <Page here="/share">
      <AtTheLaptop />
    </Page>
  );
}

function AtTheLaptop() {
  const { data, error } = useQuery(sharingQuery);
  const client = useQueryClient();
  const [role, setRole] = useState<Role>("tick");
  const again = () => client.invalidateQueries({ queryKey: sharingQuery.queryKey });
  const renew = useMutation({ mutationFn: newCode, onSuccess: again });
  const end = useMutation({ mutationFn: endSignIn, onSuccess: again });
  if (error) return <Problems refusal={error instanceof Refusal ? error : undefined} />;
  if (!data) return <p className="p-4 text-soft">Looking.</p>;
  if (!data.is_shared) return <NotShared />;
  const code = (data.codes ?? []).find((one) => one.role === role);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <Panel title="Join with a phone">
        <div role="group" aria-label="Who joins" className="mb-3 grid gap-2 sm:grid-cols-3">
          {ROLES.map((one) => (
            <Button
              key={one.role}
              aria-pressed={role === one.role}
              className={`flex-col !items-start py-2 text-left ${role === one.role ? "border-2 border-lead" : ""}`}
              onClick={() => setRole(one.role)}
            >
              <b className="text-lg">{one.name}</b>
              <span className="text-soft">{one.may}</span>
            </Button>
          ))}
        </div>
        {code && <Way code={code} />}
        <Button className="mt-3" disabled={renew.isPending} onClick={() => renew.mutate(role)}>
          Another code for {roleName(role)}
        </Button>
      </Panel>
      <div className="space-y-3">
        <Panel title={`Joined: ${(data.sign_ins ?? []).length}`}>
          <ul className="divide-y divide-edge">
            {(data.sign_ins ?? []).map((one) => (
              <li key={one.key} className="flex items-center gap-2 py-1">
                <span className="min-w-0 flex-1 leading-snug">
                  <b className="block">{one.person}</b>
                  <span className="text-sm text-soft">
                    {roleName(one.role)} since{" "}
                    {new Date(one.made_at).toLocaleString([], { weekday: "short", hour: "2-digit", minute: "2-digit" })}
                  </span>
                </span>
                <Button disabled={end.isPending} aria-label={`End the sign-in of ${one.person}`} onClick={() => end.mutate(one.key)}>
                  End
                </Button>
              </li>
            ))}
          </ul>
          <p className="text-soft">
            {(data.sign_ins ?? []).length === 0
              ? "Nobody yet. A sign-in lasts a week, or until you end it."
              : "End sends somebody away and changes the code of that role. The others stay."}
          </p>
        </Panel>
        <Cautions />
      </div>
    </div>
  );
}

/** The code to photograph, and the same to type. */
function Way({ code }: { code: Schemas["Code"] }) {
  if (code.pages.length === 0)
    return <Empty title="This laptop is on no network">Join the set's network; the address shows up here by itself.</Empty>;
  return (
    <div className="flex flex-wrap items-center gap-6">
      <div
        className="w-64 rounded-md bg-white p-1 [&>svg]:h-auto [&>svg]:w-full"
        role="img"
        aria-label="The code to join, for a phone's camera"
        dangerouslySetInnerHTML={{ __html: code.qr_svg }}
      />
      <div className="min-w-64 flex-1 space-y-3 text-lg">
        <p>
          Point the phone's camera at this. Or open
          {code.pages.map((page) => (
            <b key={page} className="block text-xl break-all">
              {page.slice(0, page.indexOf("/join"))}/join
            </b>
          ))}
        </p>
        <p>
          and type <b className="block text-4xl tracking-widest tabular-nums">{spelt(code.code)}</b>
        </p>
      </div>
    </div>
  );
}

function Cautions() {
  return (
    <Panel title="Before you share">
      <ul className="list-disc space-y-2 border-l-8 border-warn bg-raised py-2 pr-2 pl-7 leading-snug">
        <li>
          Whoever is on this network can read what phones and laptop send each other: there is no certificate on a cart, so nothing is
          encrypted. Use the crew's own network, not the hotel's or the unit base's open one.
        </li>
        <li>A phone that is lost keeps its sign-in for a week. End it here.</li>
        <li>Show the Planner's code to those only who may change rigs; make another one when it was seen.</li>
        <li>Stop sharing when you wrap: start Isotact without --share.</li>
        <li>Which radio channels may be used is the law of the place; ask who is in charge of the network before you join it.</li>
      </ul>
    </Panel>
  );
}

function NotShared() {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <Panel>
        <Empty title="This laptop is not shared">
          <p>Phones cannot reach it. To let the crew join, stop Isotact and start it with</p>
          <p className="my-3 rounded-md bg-raised px-4 py-3 font-mono text-lg text-ink">isotact serve --share</p>
          <p>Then this page shows a code for their phones.</p>
        </Empty>
      </Panel>
      <Cautions />
    </div>
  );
}

/** What a phone sees that has joined. */
function Joined({ person, role }: { person: string; role: Role }) {
  const out = useMutation({ mutationFn: leave, onSuccess: () => window.location.assign("/join") });
  return (
    <Page here="/share">
      <Panel title={`You joined as ${person}`}>
        <p className="mb-3">
          {roleName(role)}: {ROLES.find((one) => one.role === role)?.may}.
        </p>
        <Button onClick={() => out.mutate()}>Leave</Button>
      </Panel>
    </Page>
  );
}
