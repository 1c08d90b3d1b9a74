import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";

import { person as kept, Refusal } from "../../../api/client";
import { meQuery, Problems } from "../../../rig";
import { Button, useTheme, TextInput } from "../../../ui";
import { codeIn } from "../model";
import { join } from "../queries";

/** On a phone: the code that the laptop shows, and a name for the log. */
export function JoinScreen() {
  const [code, setCode] = useState(() => codeIn(window.location.search));
  const [name, setName] = useState(kept.now);
  useTheme();
  const client = useQueryClient();
  const go = useNavigate();
  useEffect(() => {
    // Out of the address: a picture of this screen is no way in.
    if (window.location.search) window.history.replaceState(null, "", "/join");
  }, []);
  const enter = useMutation({
    mutationFn: () => join(code, name.trim()),
    onSuccess: (me) => {
      kept.is(me.person);
      client.setQueryData(meQuery.queryKey, me);
      void client.invalidateQueries();
      void go("/");
    },
  });
  return (
    <main className="mx-auto flex min-h-dvh max-w-md flex-col justify-center gap-4 p-6">
      <h1 className="text-3xl font-bold">Join the cart</h1>
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          enter.mutate();
        }}
      >
        <Field
          label="Code, as the laptop shows it"
          value={code}
          onChange={setCode}
          className="text-2xl tracking-widest uppercase"
          maxLength={40}
        />
        <Field label="Your name, for who did what" value={name} onChange={setName} maxLength={60} />
        <Button type="submit" weight="lead" className="min-h-16 w-full text-xl" disabled={enter.isPending || !code.trim() || !name.trim()}>
          Join
        </Button>
      </form>
      {enter.error && <Problems refusal={enter.error instanceof Refusal ? enter.error : undefined} />}
      <p className="text-soft">What you send can be read by others on this network. Your name stands in the log beside what you do.</p>
    </main>
  );
}

function Field({
  label,
  value,
  onChange,
  className = "",
  maxLength,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  className?: string;
  maxLength: number;
}) {
  return (
    <label className="block">
      <span className="mb-1 block">{label}</span>
      <TextInput
        tall
        value={value}
        maxLength={maxLength}
        autoComplete="off"
        onChange={(event) => onChange(event.target.value)}
        className={`w-full ${className}`}
      />
    </label>
  );
}
