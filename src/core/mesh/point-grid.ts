/**
 * *Which of many points lie near a place*: a hash grid over space, to which points are added one by one. Cells may share a
 * bucket, which costs a little time and changes nothing.
 */
export class PointGrid {
  /** Points, 3 numbers each; `count` of them. */
  position: Float64Array;
  count = 0;
  /** The last {@link gather}'s: indices. */
  near = new Int32Array(256);
  #head = new Int32Array(0);
  #next: Int32Array;
  #mask = 0;
  #perCell = 0;
  /** The search that met each point last. */
  #met: Uint32Array;
  #search = 0;

  /** @param room how many points it is made for; it grows when there are more */
  constructor(room: number) {
    this.position = new Float64Array(3 * room);
    this.#next = new Int32Array(room);
    this.#met = new Uint32Array(room);
  }

  /** Sorts all points into cells of another size, for searches within half of it, metres. */
  resize(size: number, expected = this.count): void {
    this.#perCell = 1 / size;
    const buckets = 2 ** Math.ceil(Math.log2(Math.min(1 << 22, Math.max(64, 4 * expected))));
    this.#head = new Int32Array(buckets).fill(-1);
    this.#mask = buckets - 1;
    for (let i = 0; i < this.count; i++) this.#link(i);
  }

  /** Adds a point; {@link resize} has been called. */
  add(x: number, y: number, z: number): void {
    this.push(x, y, z);
    this.#link(this.count - 1);
  }

  /** Adds a point that is found only after the next {@link resize}. */
  push(x: number, y: number, z: number): void {
    if (this.count === this.#next.length) this.#grow();
    const p = 3 * this.count;
    this.position[p] = x;
    this.position[p + 1] = y;
    this.position[p + 2] = z;
    this.count++;
  }

  /** Whether no point lies nearer than `radius`, at most half a cell. */
  isFree(x: number, y: number, z: number, radius: number): boolean {
    const k = this.#perCell;
    const at = this.position;
    const head = this.#head;
    const next = this.#next;
    const mask = this.#mask;
    const least = radius * radius;
    // Most often what is near lies in the same cell.
    for (let j = head[bucketOf(Math.floor(x * k), Math.floor(y * k), Math.floor(z * k), mask)]; j >= 0; j = next[j]) {
      const dx = at[3 * j] - x;
      const dy = at[3 * j + 1] - y;
      const dz = at[3 * j + 2] - z;
      if (dx * dx + dy * dy + dz * dz < least) return false;
    }
    const lx = Math.floor((x - radius) * k);
    const ly = Math.floor((y - radius) * k);
    const lz = Math.floor((z - radius) * k);
    const hx = Math.floor((x + radius) * k);
    const hy = Math.floor((y + radius) * k);
    const hz = Math.floor((z + radius) * k);
    for (let cx = lx; cx <= hx; cx++) {
      for (let cy = ly; cy <= hy; cy++) {
        for (let cz = lz; cz <= hz; cz++) {
          for (let j = head[bucketOf(cx, cy, cz, mask)]; j >= 0; j = next[j]) {
            const dx = at[3 * j] - x;
            const dy = at[3 * j + 1] - y;
            const dz = at[3 * j + 2] - z;
            if (dx * dx + dy * dy + dz * dz < least) return false;
          }
        }
      }
    }
    return true;
  }

  /** Writes the points nearer than `radius`, at most a cell, into {@link near}; says how many. */
  gather(x: number, y: number, z: number, radius: number): number {
    const k = this.#perCell;
    const at = this.position;
    const head = this.#head;
    const next = this.#next;
    const mask = this.#mask;
    const met = this.#met;
    const search = ++this.#search;
    const most = radius * radius;
    const lx = Math.floor((x - radius) * k);
    const ly = Math.floor((y - radius) * k);
    const lz = Math.floor((z - radius) * k);
    const hx = Math.floor((x + radius) * k);
    const hy = Math.floor((y + radius) * k);
    const hz = Math.floor((z + radius) * k);
    let near = this.near;
    let n = 0;
    for (let cx = lx; cx <= hx; cx++) {
      for (let cy = ly; cy <= hy; cy++) {
        for (let cz = lz; cz <= hz; cz++) {
          for (let j = head[bucketOf(cx, cy, cz, mask)]; j >= 0; j = next[j]) {
            const dx = at[3 * j] - x;
            const dy = at[3 * j + 1] - y;
            const dz = at[3 * j + 2] - z;
            if (dx * dx + dy * dy + dz * dz >= most || met[j] === search) continue;
            met[j] = search;
            if (n === near.length) near = this.#widened();
            near[n++] = j;
          }
        }
      }
    }
    return n;
  }

  /** How far the nearest point is, metres; `most`, at most a cell, where it is farther. */
  nearest(x: number, y: number, z: number, most: number): number {
    const at = this.position;
    const found = this.gather(x, y, z, most);
    let squared = most * most;
    for (let k = 0; k < found; k++) {
      const p = 3 * this.near[k];
      const dx = at[p] - x;
      const dy = at[p + 1] - y;
      const dz = at[p + 2] - z;
      squared = Math.min(squared, dx * dx + dy * dy + dz * dz);
    }
    return found > 0 ? Math.sqrt(squared) : most;
  }

  #grow(): void {
    const room = 2 * this.count + 64;
    const [position, next] = [new Float64Array(3 * room), new Int32Array(room)];
    position.set(this.position);
    next.set(this.#next);
    this.position = position;
    this.#next = next;
    this.#met = new Uint32Array(room);
    this.#search = 0;
  }

  #widened(): Int32Array<ArrayBuffer> {
    const more = new Int32Array(2 * this.near.length);
    more.set(this.near);
    return (this.near = more);
  }

  #link(i: number): void {
    const k = this.#perCell;
    const at = this.position;
    const x = Math.floor(at[3 * i] * k);
    const bucket = bucketOf(x, Math.floor(at[3 * i + 1] * k), Math.floor(at[3 * i + 2] * k), this.#mask);
    this.#next[i] = this.#head[bucket];
    this.#head[bucket] = i;
  }
}

function bucketOf(x: number, y: number, z: number, mask: number): number {
  return (x + Math.imul(y, 0x85ebca6b) + Math.imul(z, 0xc2b2ae35)) & mask;
}
