import { defaultSet } from '../src/core/directions/spec';
import { setMembers } from '../src/core/directions/set';
import { EXPORT_FORMATS } from '../src/core/formats/format';
import { filesAndContacts, manifestOf, packMotions, zipPack } from '../src/core/handover/pack';
import { build, partOf } from '../src/core/project/motion-spec';
import { InputFault, MOTION_OPTIONS, parseOptions, readBody, readCarrier, readGait, readNumber, readWhole } from './input';
import { writeFolder, writeWhole } from './output';
import { summary } from './report';

/** `set`: a directional set as a folder or a zip, with its manifest. */
export async function setCommand(args: string[]): Promise<number> {
  const { values } = parseOptions(args, {
    ...MOTION_OPTIONS,
    directions: { type: 'string' },
    twins: { type: 'boolean' },
    format: { type: 'string', multiple: true },
  });
  if (values.out === undefined) throw new InputFault(['--out is needed: a folder or a .zip file']);
  const wanted = values.format ?? ['glb'];
  const formats = EXPORT_FORMATS.filter((f) => wanted.includes(f.id));
  if (formats.length !== new Set(wanted).size) throw new InputFault([`--format: must be among ${EXPORT_FORMATS.map((f) => f.id).join(', ')}`]);
  const rate = readNumber('fps', values.fps, 60, 1, 240);
  const directions = readWhole('directions', values.directions, 8, 2, 32);
  const body = await readBody(values.body, values.stature);
  const gait = await readGait(values.gait, values.set, body);
  const set = { ...defaultSet(), directions, twins: values.twins ?? false, gait: 'gait' };
  const part = partOf(body.spec, gait, { sets: { set } });
  const orders = setMembers(set, gait).map(
    ({ directionDeg, twin }) =>
      () =>
        build({ kind: 'member', set: 'set', directionDeg, twin }, part, { rate }),
  );
  const files = await packMotions(orders, {
    rate,
    inPlace: values['in-place'] ?? false,
    carrier: readCarrier(values.on),
    formats,
    contacts: values.contacts ?? false,
  });
  if (/\.zip$/i.test(values.out)) await writeWhole(values.out, zipPack(files, body));
  else {
    const manifest = { name: 'manifest.json', bytes: Buffer.from(JSON.stringify(manifestOf(files, body), null, 2)) };
    await writeFolder(values.out, [...filesAndContacts(files), manifest], manifest.name);
  }
  for (const file of files) process.stdout.write(`${file.name}: ${summary(file.check)}\n`);
  for (const note of new Set(files.flatMap((f) => f.notes.map((n) => n.words)))) process.stdout.write(`  ${note}\n`);
  return 0;
}
