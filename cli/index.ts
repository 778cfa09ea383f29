import { checkCommand } from './check';
import { gaitsCommand } from './gaits';
import { InputFault } from './input';
import { cleanUpOnSignals, watchOutput } from './output';
import { makeCommand } from './make';
import { setCommand } from './set';
import { stepsCommand } from './steps';

const COMMANDS: Readonly<Record<string, (args: string[]) => Promise<number>>> = {
  make: makeCommand,
  steps: stepsCommand,
  set: setCommand,
  check: checkCommand,
  gaits: gaitsCommand,
};

async function main(): Promise<number> {
  const [command = '', ...args] = process.argv.slice(2);
  const run = Object.hasOwn(COMMANDS, command) ? COMMANDS[command] : undefined;
  if (!run) throw new InputFault([`unknown command "${command}"; there are ${Object.keys(COMMANDS).join(', ')}`]);
  return run(args);
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
