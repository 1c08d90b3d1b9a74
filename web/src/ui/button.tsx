import { Button as HeadlessButton } from "@headlessui/react";
import type { ComponentProps, ReactNode } from "react";

type Weight = "lead" | "plain" | "quiet";

const LOOKS: Record<Weight, string> = {
  lead: "bg-lead text-on-lead font-semibold border-lead",
  plain: "bg-raised text-ink border-edge",
  quiet: "bg-transparent text-ink border-transparent hover:bg-raised",
};

/** A button that a gloved hand hits: never lower than 44 px. */
export function Button({
  weight = "plain",
  className = "",
  children,
  ...rest
}: { weight?: Weight; children: ReactNode } & Omit<ComponentProps<typeof HeadlessButton>, "children" | "className"> & {
    className?: string;
  }) {
  return (
    <HeadlessButton
      {...rest}
      className={`inline-flex min-h-11 min-w-11 items-center justify-center gap-2 rounded-md border px-3 text-base leading-tight disabled:cursor-not-allowed disabled:opacity-50 ${LOOKS[weight]} ${className}`}
    >
      {children}
    </HeadlessButton>
  );
}
