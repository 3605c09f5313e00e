import { useSyncExternalStore } from "react";
import { isForgetful, watchForgetful } from "./device";

/** Whether this browser has just failed to keep something. */
export const useForgetful = () => useSyncExternalStore(watchForgetful, isForgetful);
