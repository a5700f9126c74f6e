/** Mocha's own report, with the counts written where MOCHA_COUNTS says. */
const { writeFileSync } = require('node:fs')
const { reporters } = require('mocha')

module.exports = class extends reporters.Spec {
  constructor(runner, options) {
    super(runner, options)
    runner.once('end', () => {
      const { passes, failures } = this.stats
      if (process.env.MOCHA_COUNTS) writeFileSync(process.env.MOCHA_COUNTS, JSON.stringify({ passed: passes, failed: failures }))
    })
  }
}
