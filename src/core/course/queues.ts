/** Numbers by what they cost, the least first: a binary heap over typed arrays. */
export class MinHeap {
  private keys = new Float64Array(1024);
  private items = new Int32Array(1024);
  private size = 0;

  push(item: number, key: number): void {
    if (this.size === this.keys.length) this.grow();
    let i = this.size++;
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (this.keys[up]! <= key) break;
      this.keys[i] = this.keys[up]!;
      this.items[i] = this.items[up]!;
      i = up;
    }
    this.keys[i] = key;
    this.items[i] = item;
  }

  /** The cheapest number, taken out; −1 when there is none. */
  pop(): number {
    if (this.size === 0) return -1;
    const top = this.items[0]!;
    const key = this.keys[--this.size]!,
      item = this.items[this.size]!;
    let i = 0;
    for (;;) {
      let child = 2 * i + 1;
      if (child >= this.size) break;
      if (child + 1 < this.size && this.keys[child + 1]! < this.keys[child]!) child++;
      if (this.keys[child]! >= key) break;
      this.keys[i] = this.keys[child]!;
      this.items[i] = this.items[child]!;
      i = child;
    }
    this.keys[i] = key;
    this.items[i] = item;
    return top;
  }

  private grow(): void {
    const keys = new Float64Array(this.keys.length * 2),
      items = new Int32Array(this.items.length * 2);
    keys.set(this.keys);
    items.set(this.items);
    this.keys = keys;
    this.items = items;
  }
}

/** The same for costs that only grow, sorted into buckets of one width: what comes out is cheapest but for that width. Source: Dial 1969. */
export class BucketQueue {
  private readonly buckets: number[][] = [];
  private at = 0;
  /** Cost at which the bucket of the last number begins. */
  last = 0;

  constructor(private readonly width: number) {}

  push(item: number, key: number): void {
    (this.buckets[Math.floor(key / this.width)] ??= []).push(item);
  }

  pop(): number {
    for (; this.at < this.buckets.length; this.at++) {
      const bucket = this.buckets[this.at];
      if (bucket && bucket.length > 0) {
        this.last = this.at * this.width;
        return bucket.pop()!;
      }
    }
    return -1;
  }
}
