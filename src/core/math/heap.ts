/** *Things by how far they are*, nearest first, as Dijkstra's shortest paths take them. What came nearer is in it more than once. */
export class Heap {
  readonly #far: Float64Array;
  readonly #items: number[] = [];
  readonly #keys: number[] = [];

  /** @param far how far each is, which may become less */
  constructor(far: Float64Array) {
    this.#far = far;
  }

  push(v: number): void {
    const [items, keys, key] = [this.#items, this.#keys, this.#far[v]];
    let i = items.length;
    while (i > 0 && keys[(i - 1) >> 1] > key) {
      items[i] = items[(i - 1) >> 1];
      keys[i] = keys[(i - 1) >> 1];
      i = (i - 1) >> 1;
    }
    items[i] = v;
    keys[i] = key;
  }

  /** -1 when there is none left. */
  pop(): number {
    const [items, keys] = [this.#items, this.#keys];
    while (items.length > 0) {
      const [v, key] = [items[0], keys[0]];
      const [last, lastKey] = [items.pop()!, keys.pop()!];
      let i = 0;
      for (let child = 1; child < items.length; child = 2 * i + 1) {
        if (child + 1 < items.length && keys[child + 1] < keys[child]) child++;
        if (keys[child] >= lastKey) break;
        items[i] = items[child];
        keys[i] = keys[child];
        i = child;
      }
      if (items.length > 0) {
        items[i] = last;
        keys[i] = lastKey;
      }
      if (key === this.#far[v]) return v;
    }
    return -1;
  }
}
