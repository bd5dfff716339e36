import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { z } from 'zod';
import { importMidi, jsonOf, parseCalls, printRiff } from './commands/files';
import { convert } from './commands/convert';
import { carry, findSetupOf, move } from './commands/carry';
import { check, name, scale } from './commands/check';
import { reduction, search, secondVoices } from './commands/arrange';
import { differences, fold, formParse, formPrint, unfold } from './commands/form';
import { place, positions } from './commands/place';
import { listen, render } from './commands/sound';
import { capoPlan, describeSetup, tension, tune } from './commands/rack';
import {
  callsParseInput,
  callsPrintInput,
  capoPlanInput,
  carryInput,
  CliFault,
  convertOptions,
  differencesInput,
  findSetupInput,
  foldOptions,
  formParseInput,
  importOptions,
  listenOptions,
  moveInput,
  nameInput,
  parsed,
  placeInput,
  positionsInput,
  reduceInput,
  renderOptions,
  scaleInput,
  SCHEMAS,
  searchInput,
  secondVoiceInput,
  setupInput,
  tensionInput,
  tuneOptions,
  unfoldOptions,
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

type Options = Record<string, string | boolean | undefined>;

/** Arguments apart: files stand alone, `names` are options with a value, `switches` those without one. */
function flags(
  args: readonly string[],
  names: readonly string[],
  switches: readonly string[] = [],
): { readonly files: string[]; readonly options: Options } {
  try {
    const { positionals, values } = parseArgs({
      // A number below nought is a value, not another option.
      args: args.reduce<string[]>((joined, arg) => {
        const last = joined.at(-1);
        if (/^-\d/.test(arg) && last?.startsWith('--')) joined.splice(-1, 1, `${last}=${arg}`);
        else joined.push(arg);
        return joined;
      }, []),
      allowPositionals: true,
      options: {
        ...Object.fromEntries(names.map((name) => [name, { type: 'string' as const }])),
        ...Object.fromEntries(switches.map((name) => [name, { type: 'boolean' as const }])),
      },
    });
    return { files: positionals, options: values as Options };
  } catch (reason) {
    throw new CliFault('usage', reason instanceof Error ? reason.message : String(reason), args.join(' '));
  }
}

/** Flags of a command whose options are those of a schema. */
const optionsOf = (args: readonly string[], { shape }: { readonly shape: object }): ReturnType<typeof flags> =>
  flags(args, Object.keys(shape));

/** A promise only where a file has to be decoded, or set on paper. */
function dispatch(argv: readonly string[]): unknown {
  const [command, ...after] = argv;
  switch (command) {
    case 'positions':
      return positions(parsed(positionsInput, json(after[0])));
    case 'place': {
      const { files, options } = flags(after, ['ways'], ['explain', 'table']);
      const ways = options.ways === undefined ? null : Number(options.ways);
      if (ways !== null && !(Number.isInteger(ways) && ways >= 1 && ways <= 50))
        throw new CliFault('usage', '--ways takes a whole number from 1 to 50.', '--ways');
      return place(parsed(placeInput, json(files[0])), {
        explain: options.explain === true,
        table: options.table === true,
        ways,
      });
    }
    case 'import': {
      const { files, options } = optionsOf(after, importOptions);
      return importMidi(new Uint8Array(read(files[0])), parsed(importOptions, options));
    }
    case 'convert': {
      const { files, options } = optionsOf(after, convertOptions);
      const [file, out] = files;
      if (file === undefined || out === undefined)
        throw new CliFault(
          'usage',
          'convert IN OUT [--setup JSON] [--part NAME|N] [--staves tab|staff|both]',
          'convert',
        );
      const from = { file, bytes: new Uint8Array(read(file)) };
      return convert(from, out, parsed(convertOptions, options)).then(({ bytes, said }) => {
        writeFileSync(out, bytes);
        return { ...said, file: out };
      });
    }
    case 'calls': {
      const [verb, file] = after;
      if (verb === 'parse') return parseCalls(parsed(callsParseInput, json(file)));
      if (verb === 'print') return printRiff(parsed(callsPrintInput, json(file)));
      throw new CliFault('usage', 'calls parse [FILE|-] or calls print [FILE|-]', 'calls');
    }
    case 'form': {
      const [verb, file] = after;
      if (verb === 'print') return formPrint(json(file));
      if (verb === 'parse') return formParse(parsed(formParseInput, json(file)));
      throw new CliFault('usage', 'form print [PIECE.json|-] or form parse [FILE|-]', 'form');
    }
    case 'unfold': {
      const { files, options } = optionsOf(after, unfoldOptions);
      return unfold(json(files[0]), parsed(unfoldOptions, options));
    }
    case 'fold': {
      const { files, options } = optionsOf(after, foldOptions);
      return fold(json(files[0]), parsed(foldOptions, options));
    }
    case 'differences':
      return differences(parsed(differencesInput, json(after[0])));
    case 'second-voice':
      return secondVoices(parsed(secondVoiceInput, json(after[0])));
    case 'reduce':
      return reduction(parsed(reduceInput, json(after[0])));
    case 'search':
      return search(parsed(searchInput, json(after[0])));
    case 'check': {
      const { files, options } = flags(after, [], ['all']);
      return check(json(files[0]), options.all === true);
    }
    case 'name':
      return name(parsed(nameInput, json(after[0])));
    case 'scale':
      return scale(parsed(scaleInput, json(after[0])));
    case 'find-setup':
      return findSetupOf(parsed(findSetupInput, json(after[0])));
    case 'carry':
      return carry(parsed(carryInput, json(after[0])));
    case 'move':
      return move(parsed(moveInput, json(after[0])));
    case 'setup':
      return describeSetup(parsed(setupInput, json(after[0])));
    case 'tension':
      return tension(parsed(tensionInput, json(after[0])));
    case 'capo-plan':
      return capoPlan(parsed(capoPlanInput, json(after[0])));
    case 'tune': {
      const { files, options } = optionsOf(after, tuneOptions);
      return tune(new Uint8Array(read(files[0])), parsed(tuneOptions, options));
    }
    case 'listen': {
      const { files, options } = optionsOf(after, listenOptions);
      return listen(new Uint8Array(read(files[0], MAX_SOUND)), parsed(listenOptions, options));
    }
    case 'render': {
      const { files, options } = optionsOf(after, renderOptions);
      const [file, out] = files;
      if (out === undefined)
        throw new CliFault('usage', 'render PIECE.json OUT.wav [--part ID] [--riff ID] [--speed 0.25-1.5]', 'render');
      const { bytes, ...spec } = render(json(file), parsed(renderOptions, options));
      writeFileSync(out, bytes);
      return { ...spec, file: out };
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
        'Commands: positions, place, import, convert, calls parse, calls print, form parse, form print, unfold, fold, differences, second-voice, reduce, search, check, name, scale, find-setup, carry, move, setup, tension, capo-plan, tune, listen, render, schema. See docs/cli.md.',
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
