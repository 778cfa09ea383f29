import type { SessionStore } from './session';

/** The playhead. Advanced by the walkway's animation loop; listeners write to the page themselves, React never renders per frame. */
export class Clock {
  /** Seconds since the motion's start; a cycle counts on past its stride. */
  time = 0;
  /** While playing, listeners hear of every so many pictures: fewer where pictures are dear. */
  heardEvery = 1;
  private unheard = 0;
  private listeners = new Set<(time: number) => void>();

  /** Whether it plays, how fast and whether it starts again is the session's; the clock asks. */
  constructor(readonly session: SessionStore) {}

  get playing(): boolean {
    return this.session.getState().playing;
  }

  set playing(playing: boolean) {
    if (playing !== this.playing) this.session.setState({ playing });
  }

  /** Calls `listener` after every change of time until the returned function is called. */
  subscribe(listener: (time: number) => void): () => void {
    this.listeners.add(listener);
    listener(this.time);
    return () => this.listeners.delete(listener);
  }

  set(time: number): void {
    this.time = time;
    this.unheard = 0;
    for (const listener of this.listeners) listener(time);
  }

  /** Moves on by `seconds` of real time through a motion of `duration` seconds. */
  advance(seconds: number, duration: number, endless: boolean): void {
    const { playing, rate, loop } = this.session.getState();
    if (!playing) return;
    let next = this.time + seconds * rate;
    // A plan starts again after a short rest on its last picture; without loop it stops there.
    if (!endless && next > duration + (loop ? REST_S : 0)) {
      next = loop ? 0 : duration;
      if (!loop) this.playing = false;
    }
    if (endless && !loop && next >= duration) {
      next = duration;
      this.playing = false;
    }
    this.time = next;
    this.unheard++;
    if (this.unheard >= this.heardEvery || !this.playing) this.set(next);
  }
}

const REST_S = 0.6;
