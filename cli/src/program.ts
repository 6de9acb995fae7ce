import { Command, CommanderError } from 'commander'
import type { Engine } from '@stern-gate/engine'
import { check, type CheckArguments } from './check'
import { dispatch, type DispatchArguments } from './dispatch'
import { facts } from './facts'
import { encode, type EncodeArguments } from './encode'
import { fit, type FitArguments } from './fit'
import { pair, type PairArguments } from './pair'
import { remedy, type RemedyArguments } from './remedy'
import { printRules } from './printRules'
import { printSchema } from './printSchema'
import { smallest, type SmallestArguments } from './smallest'
import { CannotRun, faultText, type ExitCode, type Surroundings } from './surroundings'
import { version } from './version'

/** Builds the command line. `run` never throws and never ends the process. */
export function createProgram(around: Surroundings): { run: (args: string[]) => Promise<ExitCode> } {
  let exit: ExitCode = 0
  const program = new Command('stern-gate')
    .description("Checks meshes and textures against a project's pipeline rules, and mends them.")
    .version(version)
    .exitOverride()
    .configureOutput({ writeOut: around.out, writeErr: around.err })
  const withEngine = async (work: (engine: Engine) => Promise<ExitCode>) => {
    const engine = around.openEngine()
    try {
      exit = await work(engine)
    } finally {
      await engine.close()
    }
  }
  program
    .command('check')
    .description('measure and judge files and folders; exit 0 clear, 1 held, 2 could not run')
    .argument('<paths...>', 'files and folders')
    .option(
      '--rulebook <file>',
      'rulebook to judge by (JSON); stern-gate.json above the files, else the default',
    )
    .option('--target <name>', 'target of the rulebook')
    .option('--class <name>', 'class of all assets, over folders and names')
    .option('--format <format>', 'text, json, sarif or junit', 'text')
    .option('--out <file>', 'write the report to a file')
    .option('--max-cautions <count>', 'more cautions than this hold the check, too')
    .option('--cache <folder>', "where facts are kept between runs; the user's cache folder without it")
    .option('--no-cache', 'measure everything anew')
    .option('--validate', "have the open standard's validator look at glTF files, too")
    .option(
      '--apart <way>',
      'take files of many objects apart: by top nodes (top), groups, name, distance or nodes; or keep them whole',
    )
    .option('--intake <name>', 'take meshes in by an intake preset of the rulebook first')
    .option('--mend [which]', 'mend what is safe, or with “all” the first offer of every finding')
    .option('--into <folder>', 'where mended files and parts of scenes go')
    .option('--write', 'put mended files in the place of the files as they are')
    .option('--force', 'write over files with changes that are not committed')
    .action((paths: string[], options: CheckArguments) =>
      withEngine((engine) => check(engine, around, paths, options)),
    )
  program
    .command('dispatch')
    .description(
      'check files and folders and pack what is clear into a zip; exit 0 all of it, 1 some was held',
    )
    .argument('<paths...>', 'files and folders')
    .requiredOption('--out <file>', 'the zip that is written')
    .option(
      '--encode',
      'textures go along as the target stores them, too: KTX2 with mips, beside their sources',
    )
    .option(
      '--rulebook <file>',
      'rulebook to judge by (JSON); stern-gate.json above the files, else the default',
    )
    .option('--target <name>', 'target of the rulebook')
    .option('--class <name>', 'class of all assets, over folders and names')
    .option('--cache <folder>', "where facts are kept between runs; the user's cache folder without it")
    .option('--no-cache', 'measure everything anew')
    .action((paths: string[], options: DispatchArguments) =>
      withEngine((engine) => dispatch(engine, around, paths, options)),
    )
  program
    .command('pair')
    .description('find which texture feeds which input of which slot; exit 0 all of it surely, 1 not all')
    .argument('<paths...>', 'files and folders')
    .option('--accept <confidence>', 'cells from this confidence on are accepted, 0 to 1; 0.9 without it')
    .option('--values', 'surfaces of values are accepted, too, where slots have no textures')
    .option('--into <folder>', 'write the meshes there, with the textures of accepted cells')
    .option('--rulebook <file>', 'rulebook with roles and classes; stern-gate.json above the files')
    .option('--target <name>', 'target of the rulebook')
    .option('--format <format>', 'text or json', 'text')
    .option('--out <file>', 'write the report to a file')
    .option('--cache <folder>', "where facts are kept between runs; the user's cache folder without it")
    .option('--no-cache', 'measure everything anew')
    .action((paths: string[], options: PairArguments) =>
      withEngine((engine) => pair(engine, around, paths, options)),
    )
  program
    .command('encode')
    .description('encode textures to block formats and say what that loses; exit 0 all of them, 1 some not')
    .argument('<paths...>', 'files and folders')
    .requiredOption('--into <folder>', 'where the encoded files go')
    .option('--to <format>', 'BC1 to BC7, ETC2, ASTC 4x4 to 8x8, ETC1S, UASTC; else what the target stores')
    .option('--quality <effort>', 'fast, good or best', 'good')
    .option('--container <kind>', 'ktx2 or dds', 'ktx2')
    .option('--role <role>', 'what all of them carry; else by their names')
    .option('--no-mips', 'only the largest level')
    .option('--rulebook <file>', 'rulebook with roles and targets; stern-gate.json above the files')
    .option('--target <name>', 'target of the rulebook')
    .option('--format <format>', 'text or json', 'text')
    .action((paths: string[], options: EncodeArguments) =>
      withEngine((engine) => encode(engine, around, paths, options)),
    )
  program
    .command('smallest')
    .description(
      'find the smallest format and size that keep textures as wanted; exit 0 for all, 1 not for all',
    )
    .argument('<paths...>', 'files and folders')
    .option('--least <dB>', 'decibels that each has to keep', '40')
    .option('--degrees <angle>', 'degrees that normal maps may be off by, on average', '2')
    .option('--among <formats>', 'formats to try, with commas; else those of the kind that the target takes')
    .option('--role <role>', 'what all of them carry; else by their names')
    .option('--rulebook <file>', 'rulebook with roles and targets; stern-gate.json above the files')
    .option('--target <name>', 'target of the rulebook')
    .option('--format <format>', 'text or json', 'text')
    .option('--out <file>', 'write the report to a file')
    .action((paths: string[], options: SmallestArguments) =>
      withEngine((engine) => smallest(engine, around, paths, options)),
    )
  program
    .command('fit')
    .description('propose a rulebook from files that are good as they are, and say what it fits')
    .argument('<paths...>', 'files and folders')
    .option('--out <file>', 'write the rulebook with all that is proposed (JSON)')
    .option('--rulebook <file>', 'rulebook to start from; stern-gate.json above the files, else the default')
    .option('--target <name>', 'target of the rulebook')
    .option('--format <format>', 'text or json', 'text')
    .option('--cache <folder>', "where facts are kept between runs; the user's cache folder without it")
    .option('--no-cache', 'measure everything anew')
    .action((paths: string[], options: FitArguments) =>
      withEngine((engine) => fit(engine, around, paths, options)),
    )
  program
    .command('facts')
    .description('what is measured in one file')
    .argument('<file>')
    .option('--format <format>', 'only json', 'json')
    .action((file: string) => withEngine((engine) => facts(engine, around, file)))
  program
    .command('remedy')
    .description('apply remedies to one mesh or texture and write the result')
    .argument('<file>')
    .requiredOption('--do <step...>', '<remedy>[:option=value,…]; several are applied in order')
    .requiredOption('--out <file>', 'where the result goes')
    .action((file: string, options: RemedyArguments) =>
      withEngine((engine) => remedy(engine, around, file, options)),
    )
  program
    .command('rules')
    .description('every rule with its level and limits')
    .option('--format <format>', 'text or json', 'text')
    .action((o: { format: string }) => {
      around.out(printRules(o.format))
    })
  program
    .command('schema')
    .description('JSON schema of report, rulebook or facts')
    .argument('<name>')
    .action((name: string) => {
      around.out(printSchema(name))
    })
  return {
    async run(args) {
      try {
        await program.parseAsync(args, { from: 'user' })
        return exit
      } catch (error) {
        return ended(error, around)
      }
    },
  }
}

function ended(error: unknown, around: Surroundings): ExitCode {
  if (error instanceof CannotRun) {
    around.err(faultText(error.fault))
    return 2
  }
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2
  around.err(
    `stern-gate broke off by a fault of its own; please report it.\n${error instanceof Error ? error.stack : String(error)}\n`,
  )
  return 2
}
