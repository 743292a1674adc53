/**
 * *An order of elimination that fills in little*: next comes whatever is joined to fewest, counted about as many times as it
 * takes no time (P. R. Amestoy, T. A. Davis, I. S. Duff, *An Approximate Minimum Degree Ordering Algorithm*, SIAM Journal on
 * Matrix Analysis and Applications 17(4), 1996). What has been eliminated is an *element*, which stands for all that it joined
 * to each other; it takes in the elements that it was joined to itself.
 */

/** What is joined to more than so many times the root of how many there are comes last, as it would be looked through each time. */
const DENSE = 10;
const NONE = -1;
const MOST_STAMP = 2 ** 30;

/**
 * @param start where the neighbours of each unknown begin: n + 1
 * @param neighbour all neighbours, behind each other, either of the other; named twice they count once
 * @returns which is eliminated when: a permutation of 0 to n − 1
 */
export function minimumDegree(start: ArrayLike<number>, neighbour: ArrayLike<number>): Uint32Array {
  const graph = new Quotient(start, neighbour);
  while (graph.eliminateNext());
  return graph.order();
}

class Quotient {
  readonly #n: number;
  /** Lists behind each other: of an unknown its elements, then its neighbours; of an element its unknowns. */
  #list: Int32Array;
  #end: number;
  readonly #at: Int32Array;
  readonly #length: Int32Array;
  /** How many of an unknown's list are elements. */
  readonly #elements: Int32Array;
  /** How many unknowns that cannot be told apart each stands for: none where another one stands for it; below zero while it is looked at. */
  readonly #size: Int32Array;
  /** What an unknown is joined to, about; how many unknowns are in an element. */
  readonly #degree: Int32Array;
  /** What has taken it in; of unknowns the one that stands for it or the element it went with. */
  readonly #into: Int32Array;
  /** When it was last looked at; 0 for an element that has been taken in. */
  readonly #seen: Int32Array;
  #stamp = 2;
  /** Unknowns by their degree, each list linked both ways; while they are looked at, by what their lists come to. */
  readonly #first: Int32Array;
  readonly #next: Int32Array;
  readonly #before: Int32Array;
  readonly #alike: Int32Array;
  readonly #sum: Int32Array;
  #least = 0;
  #done = 0;

  constructor(start: ArrayLike<number>, neighbour: ArrayLike<number>) {
    const n = (this.#n = start.length - 1);
    const ints = (value: number) => new Int32Array(n).fill(value);
    // An unknown's list never grows; a new element needs room for its unknowns, behind all others.
    this.#list = new Int32Array(neighbour.length + n);
    [this.#at, this.#length, this.#elements] = [ints(0), ints(0), ints(0)];
    [this.#size, this.#degree, this.#into, this.#seen] = [ints(1), ints(0), ints(NONE), ints(1)];
    [this.#next, this.#before, this.#sum] = [ints(NONE), ints(NONE), ints(0)];
    [this.#first, this.#alike] = [ints(NONE), ints(NONE)];
    const dense = Math.max(16, DENSE * Math.sqrt(n));
    const last = new Uint8Array(n);
    for (let i = 0; i < n; i++) if (start[i + 1] - start[i] > 2 * dense) last[i] = 1;
    let end = 0;
    const met = ints(NONE);
    for (let i = 0; i < n; i++) {
      this.#at[i] = end;
      for (let e = start[i]; last[i] === 0 && e < start[i + 1]; e++) {
        const j = neighbour[e];
        if (j === i || met[j] === i || last[j] === 1) continue;
        met[j] = i;
        this.#list[end++] = j;
      }
      this.#length[i] = this.#degree[i] = end - this.#at[i];
    }
    this.#end = end;
    for (let i = n - 1; i >= 0; i--) {
      if (last[i] === 0) this.#file(i);
      else this.#done++;
    }
  }

  /** Eliminates what is joined to fewest; false where nothing is left. */
  eliminateNext(): boolean {
    if (this.#done >= this.#n) return false;
    while (this.#first[this.#least] === NONE) this.#least++;
    const k = this.#first[this.#least];
    this.#takeOut(k);
    this.#done += this.#size[k];
    if (this.#elements[k] > 0 && this.#end + this.#least >= this.#list.length) this.#compact();
    this.#makeElement(k);
    this.#measureElements(k);
    this.#tidyUnknowns(k);
    this.#findAlike(k);
    this.#close(k);
    return true;
  }

  /** Puts an unknown where those of its degree are. */
  #file(i: number): void {
    const d = this.#degree[i];
    const first = this.#first[d];
    this.#next[i] = first;
    this.#before[i] = NONE;
    if (first !== NONE) this.#before[first] = i;
    this.#first[d] = i;
    if (d < this.#least) this.#least = d;
  }

  #takeOut(i: number): void {
    const [before, next] = [this.#before[i], this.#next[i]];
    if (next !== NONE) this.#before[next] = before;
    if (before !== NONE) this.#next[before] = next;
    else this.#first[this.#degree[i]] = next;
  }

  /** Makes an element of unknown `k`: all that it is joined to, by itself and by its elements, which it takes in. */
  #makeElement(k: number): void {
    const [list, size] = [this.#list, this.#size];
    const own = this.#at[k];
    const elements = this.#elements[k];
    const from = elements === 0 ? own : this.#end;
    let end = from;
    let degree = 0;
    size[k] = -size[k];
    for (let p = own; p <= own + elements; p++) {
      const isOwn = p === own + elements;
      const e = list[p];
      const first = isOwn ? p : this.#at[e];
      const after = isOwn ? own + this.#length[k] : first + this.#length[e];
      for (let q = first; q < after; q++) {
        const i = list[q];
        if (size[i] <= 0) continue;
        degree += size[i];
        size[i] = -size[i];
        list[end++] = i;
        this.#takeOut(i);
      }
      if (isOwn) break;
      this.#into[e] = k;
      this.#seen[e] = 0;
    }
    this.#at[k] = from;
    this.#length[k] = end - from;
    this.#degree[k] = degree;
    if (elements > 0) this.#end = end;
    this.#elements[k] = NONE;
  }

  /** Of all elements that share unknowns with `k` how many they have beside: in `seen`, above the stamp. */
  #measureElements(k: number): void {
    const [list, seen, stamp] = [this.#list, this.#seen, this.#freshStamp()];
    for (let p = this.#at[k]; p < this.#at[k] + this.#length[k]; p++) {
      const i = list[p];
      const own = -this.#size[i];
      for (let q = this.#at[i]; q < this.#at[i] + this.#elements[i]; q++) {
        const e = list[q];
        if (seen[e] >= stamp) seen[e] -= own;
        else if (seen[e] !== 0) seen[e] = this.#degree[e] + stamp - own;
      }
    }
  }

  /** What the unknowns of `k` are still joined to beside it. Those that are joined to nothing else go with it. */
  #tidyUnknowns(k: number): void {
    const [list, seen, size, stamp] = [this.#list, this.#seen, this.#size, this.#stamp];
    for (let p = this.#at[k]; p < this.#at[k] + this.#length[k]; p++) {
      const i = list[p];
      const from = this.#at[i];
      const variables = from + this.#elements[i];
      const after = from + this.#length[i];
      let [end, degree, sum] = [from, 0, 0];
      for (let q = from; q < variables; q++) {
        const e = list[q];
        if (seen[e] === 0) continue;
        const beside = seen[e] - stamp;
        if (beside > 0) {
          degree += beside;
          sum += e;
          list[end++] = e;
        } else {
          // All that is in it is in the new one.
          this.#into[e] = k;
          seen[e] = 0;
        }
      }
      const elements = end - from;
      for (let q = variables; q < after; q++) {
        const j = list[q];
        if (size[j] <= 0) continue;
        degree += size[j];
        sum += j;
        list[end++] = j;
      }
      if (degree === 0) {
        this.#into[i] = k;
        this.#degree[k] += size[i];
        size[k] += size[i];
        this.#done -= size[i];
        size[i] = 0;
        continue;
      }
      if (degree < this.#degree[i]) this.#degree[i] = degree;
      // The new element comes first; whoever stood there, and the first unknown, move up.
      list[end] = list[from + elements];
      list[from + elements] = list[from];
      list[from] = k;
      this.#elements[i] = elements + 1;
      this.#length[i] = end + 1 - from;
      const h = sum % this.#n;
      this.#sum[i] = h;
      this.#next[i] = this.#alike[h];
      this.#alike[h] = i;
    }
  }

  /** Unknowns of `k` that are joined to the same are one from now on. */
  #findAlike(k: number): void {
    const [list, size, next] = [this.#list, this.#size, this.#next];
    for (let p = this.#at[k]; p < this.#at[k] + this.#length[k]; p++) {
      if (size[list[p]] >= 0) continue;
      const h = this.#sum[list[p]];
      let i = this.#alike[h];
      this.#alike[h] = NONE;
      for (; i !== NONE && next[i] !== NONE; i = next[i]) {
        const stamp = this.#freshStamp();
        const from = this.#at[i];
        for (let q = from + 1; q < from + this.#length[i]; q++) this.#seen[list[q]] = stamp;
        let last = i;
        for (let j = next[i]; j !== NONE; j = next[j]) {
          if (!this.#isAlike(i, j, stamp)) {
            last = j;
            continue;
          }
          this.#into[j] = i;
          size[i] += size[j];
          size[j] = 0;
          next[last] = next[j];
        }
      }
    }
  }

  /** Whether unknown `j` is joined to the same as `i`, whose list bears the stamp. */
  #isAlike(i: number, j: number, stamp: number): boolean {
    if (this.#length[j] !== this.#length[i] || this.#elements[j] !== this.#elements[i]) return false;
    const from = this.#at[j];
    for (let q = from + 1; q < from + this.#length[j]; q++) if (this.#seen[this.#list[q]] !== stamp) return false;
    return true;
  }

  /** The element is what is left of its unknowns, which are put back by their degrees. */
  #close(k: number): void {
    const [list, size] = [this.#list, this.#size];
    const from = this.#at[k];
    let end = from;
    for (let p = from; p < from + this.#length[k]; p++) {
      const i = list[p];
      const own = -size[i];
      if (own <= 0) continue;
      size[i] = own;
      const degree = this.#degree[i] + this.#degree[k] - own;
      this.#degree[i] = Math.max(0, Math.min(degree, this.#n - this.#done - own));
      this.#file(i);
      list[end++] = i;
    }
    size[k] = -size[k];
    if (from + this.#length[k] === this.#end) this.#end = end;
    this.#length[k] = end - from;
    if (end === from) this.#seen[k] = 0;
    else this.#seen[k] = 1;
  }

  /** A stamp that is above all that has been seen. */
  #freshStamp(): number {
    // An element has at most all unknowns beside.
    this.#stamp += this.#n + 1;
    if (this.#stamp > MOST_STAMP) {
      for (let i = 0; i < this.#n; i++) if (this.#seen[i] !== 0) this.#seen[i] = 1;
      this.#stamp = 2 + this.#n;
    }
    return this.#stamp;
  }

  /** Moves what is still of use to the front of the room there is. */
  #compact(): void {
    const live: number[] = [];
    for (let i = 0; i < this.#n; i++) {
      const isElement = this.#elements[i] === NONE;
      if (isElement ? this.#seen[i] !== 0 : this.#size[i] !== 0) live.push(i);
    }
    live.sort((a, b) => this.#at[a] - this.#at[b]);
    let end = 0;
    for (const i of live) {
      this.#list.copyWithin(end, this.#at[i], this.#at[i] + this.#length[i]);
      this.#at[i] = end;
      end += this.#length[i];
    }
    this.#end = end;
    if (end + this.#n > this.#list.length) {
      const more = new Int32Array(2 * this.#list.length + this.#n);
      more.set(this.#list.subarray(0, end));
      this.#list = more;
    }
  }

  /** All unknowns: below each element first those that it took in, then what went with it. */
  order(): Uint32Array {
    const n = this.#n;
    const [first, next] = [new Int32Array(n).fill(NONE), new Int32Array(n).fill(NONE)];
    const hang = (i: number) => {
      const into = this.#into[i];
      if (into === NONE) return;
      next[i] = first[into];
      first[into] = i;
    };
    const isElement = (i: number) => this.#elements[i] === NONE;
    for (let i = n - 1; i >= 0; i--) if (!isElement(i)) hang(i);
    for (let i = n - 1; i >= 0; i--) if (isElement(i)) hang(i);
    const out = new Uint32Array(n);
    const stack = new Int32Array(n);
    let count = 0;
    const follow = (root: number) => {
      let top = 0;
      stack[0] = root;
      while (top >= 0) {
        const i = stack[top];
        const child = first[i];
        if (child === NONE) {
          out[count++] = i;
          top--;
        } else {
          first[i] = next[child];
          stack[++top] = child;
        }
      }
    };
    for (let i = 0; i < n; i++) if (this.#into[i] === NONE && isElement(i)) follow(i);
    for (let i = 0; i < n; i++) if (this.#into[i] === NONE && !isElement(i)) follow(i);
    return out;
  }
}
