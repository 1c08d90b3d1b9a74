import { queryOptions } from "@tanstack/react-query";

import { api, told, type Schemas } from "../../api/client";

export type Role = Schemas["Code"]["role"];

export const sharingQuery = queryOptions({
  queryKey: ["sharing"],
  queryFn: () => told(api.GET("/api/sharing")),
  // Who joins shows by itself: the codes are on the screen while people hold their phones before it.
  refetchInterval: 2_000,
  retry: false,
});

export const join = (code: string, person: string) => told(api.POST("/api/sign-in", { body: { code, person } }));

export const leave = () => told(api.DELETE("/api/sign-in"));

export const newCode = (role: Role) => told(api.POST("/api/sharing/{role}/new-code", { params: { path: { role } } }));

export const endSignIn = (key: number) => told(api.DELETE("/api/sharing/sign-ins/{key}", { params: { path: { key } } }));
