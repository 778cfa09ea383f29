import { writeFileSync } from 'node:fs';
import { createBody } from '../src/core/body/body';
import { SHIPPED_BODIES, type ShippedBody } from '../src/core/body/spec';
import { fitGait } from '../src/core/gait/fit';
import { findPreset, PRESETS } from '../src/core/gait/presets';
import type { GaitSpec } from '../src/core/gait/spec';
import { levelGround } from '../src/core/ground/ground';
import { measureFooting } from '../src/core/measure/footing';
import { cycle } from '../src/core/motion/solved';
import { printFaults } from '../src/core/steps/faults';
import { planMotion } from '../src/core/steps/motion';
import { randomWalk } from '../src/core/tests/random-walks';
import { meterScene, SCENES, sceneWalk } from '../src/core/tests/scenes';

/**
 * Measures walks over every ground, for every shipped gait on every shipped body, and writes the table that is kept:
 * `npm run bench:walks`. With `random` it makes 500 seeded walks instead and prints what does not hold. It reports; it
 * never fails.
 */
const bodies = (Object.keys(SHIPPED_BODIES) as ShippedBody[]).map((key) => ({ key, body: createBody(SHIPPED_BODIES[key]) }));

function table(): string {
  const rows: string[] = [];
  for (const { key, body } of bodies)
    for (const preset of PRESETS) {
      const of = (k: string): GaitSpec => fitGait(findPreset(k)!.make(), body.legLength);
      const gait = of(preset.key);
      const cells = SCENES.map((scene) => {
        try {
          const motion = sceneWalk(scene, gait, body, of);
          const levels = [cycle(gait, body), ...(scene.key.includes('run') ? [cycle(of('run'), body)] : [])];
          const r = meterScene(motion, levels, motion.ground === levelGround ? 60 : 240);
          const deep = scene.field ? 3 : 0.1;
          const feet = r.slideMm > 0.05 || Math.max(r.plantedSinkMm, r.swingSinkMm) > deep;
          const words = feet ? ` slide ${r.slideMm.toFixed(2)}, sink ${Math.max(r.plantedSinkMm, r.swingSinkMm).toFixed(1)}` : '';
          return `${r.times > scene.times || feet ? '**' : ''}${r.times.toFixed(1)}${words}${r.times > scene.times || feet ? '**' : ''}`;
        } catch (error) {
          if (!(error instanceof RangeError)) throw error;
          return 'refused';
        }
      });
      rows.push(`| ${preset.key}, ${key} | ${cells.join(' | ')} |`);
      process.stderr.write(`${preset.key}, ${key}\n`);
    }
  return [
    '# Walks over every ground',
    '',
    'Made by `npm run bench:walks`. Each number is the largest acceleration of any joint at 240 looks a second against its largest in the level cycle; the bar is 3, on stairs, stones, starts and turns 5. Bold: over its bar, or, with words, feet that slide more than 0.05 mm or soles deeper than 0.1 mm (3 mm on the rough field). "refused" means in words.',
    '',
    `| gait, body | ${SCENES.map((s) => s.key).join(' | ')} |`,
    `| --- |${SCENES.map(() => ' ---: |').join('')}`,
    ...rows,
    '',
  ].join('\n');
}

function random(): void {
  let [reached, held] = [0, 0];
  for (let seed = 1; seed <= 500; seed++) {
    const { body } = bodies[seed % bodies.length]!;
    const of = (k: string): GaitSpec => fitGait(findPreset(k)!.make(), body.legLength);
    const { plan, rough } = randomWalk(
      seed,
      PRESETS.map((p) => p.key),
      of,
    );
    try {
      const motion = planMotion(plan, body, { gait: of });
      const f = measureFooting(motion.onGround ?? motion, 60);
      const far = motion.survey().tooFar;
      if (far > 5e-5) reached++;
      else held++;
      const deep = Math.max(f.plantedSinkMm, f.swingSinkMm);
      if (far <= 5e-5 && printFaults(motion).length === 0 && (!(f.slideMm <= 0.05) || !(deep <= (rough ? 3 : 0.1))))
        process.stdout.write(`${seed} ${plan.gait}: slide ${f.slideMm.toFixed(3)}, sink ${deep.toFixed(2)}\n`);
    } catch (error) {
      process.stdout.write(`${seed} ${plan.gait}: ${error instanceof Error ? error.message : String(error)}\n`);
    }
  }
  process.stdout.write(`${held} hold, ${reached} ask for more than legs reach (said in notes)\n`);
}

if (process.argv[2] === 'random') random();
else writeFileSync('docs/walks.md', table());
