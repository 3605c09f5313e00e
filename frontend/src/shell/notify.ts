import { keep, kept } from "./device";

const TOLD = "lark.told";
const MOST_TOLD = 200;

export type Permission = "granted" | "denied" | "default" | "none";

/** Whether this browser may say something while Lark is not looked at. */
export function permission(): Permission {
  return "Notification" in window ? Notification.permission : "none";
}

export async function askPermission(): Promise<Permission> {
  return "Notification" in window ? await Notification.requestPermission() : "none";
}

/** Say something once: each thing by its key, also after a restart. */
export function notifyOnce(key: string, title: string, body: string) {
  const told = kept<string[]>(TOLD) ?? [];
  if (told.includes(key) || permission() !== "granted") return;
  keep(TOLD, [...told, key].slice(-MOST_TOLD));
  notify(key, title, body);
}

/** Say something now, in place of what was said under the same name before. */
export function notify(tag: string, title: string, body: string) {
  if (permission() !== "granted") return;
  const options = { body, tag, renotify: true, icon: "/lark.svg" };
  // Phones take it from the worker alone; a page opened over plain HTTP has none.
  void (navigator.serviceWorker?.getRegistration() ?? Promise.resolve(undefined)).then(
    (worker) =>
      worker ? worker.showNotification(title, options) : void new Notification(title, options),
    () => undefined,
  );
}
