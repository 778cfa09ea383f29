import { InputFault } from './input';
import { cleanUpOnSignals, watchOutput } from './output';

/** Each is loaded when it is asked for, so that a command waits for nothing it does not use. */
const COMMANDS: Readonly<Record<string, () => Promise<(args: string[]) => Promise<number>>>> = {
  make: async () => (await import('./make')).makeCommand,
  steps: async () => (await import('./steps')).stepsCommand,
  set: async () => (await import('./set')).setCommand,
  travel: async () => (await import('./travel')).travelCommand,
  check: async () => (await import('./check')).checkCommand,
  gaits: async () => (await import('./gaits')).gaitsCommand,
};

async function main(): Promise<number> {
  const [command = '', ...args] = process.argv.slice(2);
  const load = Object.hasOwn(COMMANDS, command) ? COMMANDS[command] : undefined;
  if (!load) throw new InputFault([`unknown command "${command}"; there are ${Object.keys(COMMANDS).join(', ')}`]);
  return (await load())(args);
}

watchOutput();
cleanUpOnSignals();
main().then(
  (code) => (process.exitCode = code),
  (error: unknown) => {
    const lines = error instanceof InputFault ? error.lines : [error instanceof Error ? error.message : String(error)];
    for (const line of lines) process.stderr.write(`nimbret: ${line}\n`);
    process.exitCode = 2;
  },
);
