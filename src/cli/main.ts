import { Command } from 'commander'
import { addCheckCommand } from './check.ts'
import { addFormatCommand } from './format.ts'
import { addSampleCommand } from './sample.ts'
import { addSchemaCommand } from './schema.ts'
import { addServeCommand } from './serve.ts'
import { version } from './version.ts'

const program = new Command('tundrift')
  .description('Checks game progression plans: is every gate open when it is due, without grinding?')
  .version(version)
  .showHelpAfterError()

addCheckCommand(program)
addFormatCommand(program)
addSchemaCommand(program)
addSampleCommand(program)
addServeCommand(program)

await program.parseAsync()
