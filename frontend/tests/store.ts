/** What a browser keeps on a device, for tests without one. */
export class Store {
  private kept = new Map<string, string>();
  getItem = (key: string) => this.kept.get(key) ?? null;
  setItem = (key: string, value: string) => void this.kept.set(key, value);
  removeItem = (key: string) => void this.kept.delete(key);
  /** A browser promises no order. */
  newestFirst = false;
  key = (n: number) => {
    const keys = [...this.kept.keys()];
    return (this.newestFirst ? keys.reverse() : keys)[n] ?? null;
  };
  get length() {
    return this.kept.size;
  }
}
