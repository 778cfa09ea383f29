import { describe, expect, it } from 'vitest';
import { bring } from '../formats/bring';
import { readMotionFile } from '../formats/motion-file';
import { prepareClip } from '../travel/prepare';
import { worstSlide } from '../travel/slide';
import { defaultLock, defaultTravel } from '../travel/spec';
import { signature } from '../clip/signature';
import { demoRecording } from './demo-recording';

describe('the made-up recording of the demo', () => {
  it('is the same bytes each time, shakes as a recording does, and can be locked', async () => {
    const { bytes, file } = demoRecording();
    expect(Buffer.from(demoRecording().bytes).equals(Buffer.from(bytes))).toBe(true);
    const { clips } = await readMotionFile(bytes, file.name);
    const found = clips[file.index]!;
    expect(signature(found.clip.skeleton)).toBe(file.skeleton);
    const { figure } = bring(found);
    const loose = prepareClip(figure, defaultTravel());
    expect(loose.contacts.length).toBeGreaterThanOrEqual(10);
    expect(worstSlide(loose.after)).toBeGreaterThan(5);
    const locked = prepareClip(figure, { ...defaultTravel(), lock: defaultLock() }, loose.analysis);
    expect(worstSlide(locked.after)).toBeLessThan(0.05);
  });
});
