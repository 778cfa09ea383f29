/** The playhead. Advanced by the walkway's animation loop; listeners write to the page themselves, React never renders per frame. */
export class Clock {
  /** Seconds since the motion's start; a cycle counts on past its stride. */
  time = 0;
  playing = true;
  /** 0.1 … 2. */
  rate = 1;
  loop = true;
  private listeners = new Set<(time: number) => void>();

  /** Calls `listener` after every change of time until the returned function is called. */
  subscribe(listener: (time: number) => void): () => void {
    this.listeners.add(listener);
    listener(this.time);
    return () => this.listeners.delete(listener);
  }

  set(time: number): void {
    this.time = time;
    for (const listener of this.listeners) listener(time);
  }

  /** Moves on by `seconds` of real time through a motion of `duration` seconds. */
  advance(seconds: number, duration: number, endless: boolean): void {
    if (!this.playing) return;
    let next = this.time + seconds * this.rate;
    // A plan starts again after a short rest on its last picture; without loop it stops there.
    if (!endless && next > duration + (this.loop ? REST_S : 0)) {
      next = this.loop ? 0 : duration;
      if (!this.loop) this.playing = false;
    }
    if (endless && !this.loop && next >= duration) {
      next = duration;
      this.playing = false;
    }
    this.set(next);
  }
}

const REST_S = 0.6;
