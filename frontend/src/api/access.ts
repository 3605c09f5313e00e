import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, Problem, take } from "./client";
import type { components } from "./schema";

export type PairingCode = components["schemas"]["CodeOut"];
export type PairedDevice = components["schemas"]["PairedOut"];

export type Address = components["schemas"]["AddressOut"];

const accessKey = ["access"] as const;

export function useAccess() {
  return useQuery({
    queryKey: [...accessKey, "this"],
    queryFn: async ({ signal }) => take(client.GET("/api/access", { signal })),
  });
}

export function useField() {
  return useQuery({
    queryKey: [...accessKey, "field"],
    queryFn: async ({ signal }) => take(client.GET("/api/access/field", { signal })),
  });
}

/** Addresses of a page of Lark for other devices; none while it is not reached by any. */
export function usePageAddresses(page: string) {
  return useQuery({
    queryKey: [...accessKey, "addresses", page],
    queryFn: async ({ signal }) =>
      (await take(client.GET("/api/access/addresses", { params: { query: { page } }, signal })))
        .addresses,
  });
}

export function usePairedDevices() {
  return useQuery({
    queryKey: [...accessKey, "devices"],
    queryFn: async ({ signal }) =>
      (await take(client.GET("/api/access/devices", { signal }))).devices,
    // A phone that was just paired shows up while the page is open.
    refetchInterval: 5_000,
  });
}

export function useAccessActions() {
  const queries = useQueryClient();
  const refresh = () => void queries.invalidateQueries({ queryKey: accessKey });
  return {
    listen: useMutation({
      mutationFn: (listening: boolean) =>
        take(client.PUT("/api/access/field", { body: { listening } })),
      onSettled: refresh,
    }),
    code: useMutation({ mutationFn: () => take(client.POST("/api/access/codes")) }),
    withdraw: useMutation({
      mutationFn: (id: number) =>
        take(
          client.DELETE("/api/access/devices/{device_id}", { params: { path: { device_id: id } } }),
        ),
      onSettled: refresh,
    }),
    phrase: useMutation({
      mutationFn: (phrase: string) => take(client.PUT("/api/access/phrase", { body: { phrase } })),
      onSuccess: refresh,
    }),
    signOut: useMutation({
      mutationFn: () => take(client.POST("/api/access/sign-out")),
      onSuccess: () => window.location.assign("/"),
    }),
  };
}

/** Come in by a code or by the pass phrase. */
export async function comeIn(by: { code: string } | { phrase: string }, name: string) {
  if ("code" in by) await take(client.POST("/api/access/pair", { body: { ...by, name } }));
  else await take(client.POST("/api/access/sign-in", { body: { ...by, name } }));
}

/** Whether this browser trusts the certificate that it was shown: only then may a page work without the network. */
export async function isTrusted(): Promise<boolean> {
  if (!("serviceWorker" in navigator)) return false;
  return navigator.serviceWorker.register("/sw.js").then(
    () => true,
    () => false,
  );
}

export const problemOf = (cause: unknown) =>
  cause instanceof Problem ? cause : new Problem(0, String(cause));
