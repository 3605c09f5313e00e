/** What a browser keeps on a device, for tests without one. */
export class Store {
  private kept = new Map<string, string>();
  getItem = (key: string) => this.kept.get(key) ?? null;
  setItem = (key: string, value: string) => void this.kept.set(key, value);
  removeItem = (key: string) => void this.kept.delete(key);
  key = (n: number) => [...this.kept.keys()][n] ?? null;
  get length() {
    return this.kept.size;
  }
}
