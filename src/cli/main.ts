import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { z } from 'zod';
import { importMidi, jsonOf, parseCalls, printRiff } from './commands/files';
import { place, positions } from './commands/place';
import { listen, render } from './commands/sound';
import { capoPlan, describeSetup, tension, tune } from './commands/rack';
import {
  callsParseInput,
  callsPrintInput,
  capoPlanInput,
  CliFault,
  importOptions,
  listenOptions,
  parsed,
  placeInput,
  positionsInput,
  renderOptions,
  SCHEMAS,
  setupInput,
  tensionInput,
  tuneOptions,
} from './schemas';

/** The core on the command line: JSON in, JSON out, faults as one JSON object on standard error. See docs/cli.md. */

const MAX_INPUT = 32 * 1024 * 1024;
const MAX_SOUND = 512 * 1024 * 1024;

function read(file: string | undefined, most = MAX_INPUT): Buffer {
  try {
    if (file !== undefined && file !== '-' && statSync(file).size > most)
      throw new CliFault('too-large', `The input is over ${most / 1048576} MB.`, file);
    return readFileSync(file === undefined || file === '-' ? 0 : file);
  } catch (reason) {
    if (reason instanceof CliFault) throw reason;
    throw new CliFault(
      'unreadable',
      `Can't read ${file ?? 'standard input'}: ${reason instanceof Error ? reason.message : String(reason)}`,
      file ?? '-',
    );
  }
}

const json = (file: string | undefined): unknown => jsonOf(read(file).toString('utf8'), file ?? '-');

/** Arguments apart: what stands alone, options with a value, and switches without one. */
function flags(
  args: readonly string[],
  known: readonly string[] = [],
): { rest: string[]; options: Record<string, string>; switches: Set<string> } {
  const rest: string[] = [];
  const options: Record<string, string> = {};
  const switches = new Set<string>();
  for (let i = 0; i < args.length; i++) {
    const arg = args[i] ?? '';
    if (!arg.startsWith('--')) rest.push(arg);
    else if (known.includes(arg.slice(2))) switches.add(arg.slice(2));
    else options[arg.slice(2)] = args[++i] ?? '';
  }
  return { rest, options, switches };
}

/** A promise only where a file has to be decoded. */
function dispatch(argv: readonly string[]): unknown {
  const [command, ...after] = argv;
  switch (command) {
    case 'positions':
      return positions(parsed(positionsInput, json(after[0])));
    case 'place': {
      const { rest, options, switches } = flags(after, ['explain', 'table']);
      const ways = options.ways === undefined ? null : Number(options.ways);
      if (ways !== null && !(Number.isInteger(ways) && ways >= 1 && ways <= 50))
        throw new CliFault('usage', '--ways takes a whole number from 1 to 50.', '--ways');
      return place(parsed(placeInput, json(rest[0])), {
        explain: switches.has('explain'),
        table: switches.has('table'),
        ways,
      });
    }
    case 'import': {
      const { rest, options } = flags(after);
      return importMidi(new Uint8Array(read(rest[0])), parsed(importOptions, options));
    }
    case 'calls': {
      const [verb, file] = after;
      if (verb === 'parse') return parseCalls(parsed(callsParseInput, json(file)));
      if (verb === 'print') return printRiff(parsed(callsPrintInput, json(file)));
      throw new CliFault('usage', 'calls parse [FILE|-] or calls print [FILE|-]', 'calls');
    }
    case 'setup':
      return describeSetup(parsed(setupInput, json(after[0])));
    case 'tension':
      return tension(parsed(tensionInput, json(after[0])));
    case 'capo-plan':
      return capoPlan(parsed(capoPlanInput, json(after[0])));
    case 'tune': {
      const { rest, options } = flags(after);
      return tune(new Uint8Array(read(rest[0])), parsed(tuneOptions, options));
    }
    case 'listen': {
      const { rest, options } = flags(after);
      return listen(new Uint8Array(read(rest[0], MAX_SOUND)), parsed(listenOptions, options));
    }
    case 'render': {
      const { rest, options } = flags(after);
      const [file, out] = rest;
      if (out === undefined)
        throw new CliFault('usage', 'render PIECE.json OUT.wav [--part ID] [--riff ID] [--speed 0.25-1.5]', 'render');
      const { bytes, ...said } = render(json(file), parsed(renderOptions, options));
      writeFileSync(out, bytes);
      return { ...said, file: out };
    }
    case 'schema': {
      const name = after.join(' ') as keyof typeof SCHEMAS;
      const schema = SCHEMAS[name];
      if (!schema) throw new CliFault('usage', `schema of: ${Object.keys(SCHEMAS).join(', ')}`, 'schema');
      return z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' });
    }
    default:
      throw new CliFault(
        'usage',
        'Commands: positions, place, import, calls parse, calls print, setup, tension, capo-plan, tune, listen, render, schema. See docs/cli.md.',
        command ?? '',
      );
  }
}

try {
  process.stdout.write(`${JSON.stringify(await dispatch(process.argv.slice(2)))}\n`);
} catch (reason) {
  const fault =
    reason instanceof CliFault
      ? reason
      : new CliFault('bug', reason instanceof Error ? reason.message : String(reason));
  process.stderr.write(
    `${JSON.stringify({ code: fault.code, message: fault.message, ...(fault.at === undefined ? {} : { at: fault.at }) })}\n`,
  );
  process.exitCode = 2;
}
