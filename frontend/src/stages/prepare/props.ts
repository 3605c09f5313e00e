import type { Outing } from "../../api/client";

/** Change one thing of the outing; a drag is one step back. */
export type SetOuting = <K extends keyof Outing>(key: K, value: Outing[K]) => void;
/** Change several things of the outing in one step. */
export type PutOuting = (changed: Partial<Outing>) => void;
