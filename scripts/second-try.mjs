// Tests that came right only when they were tried once more: a line each, in the file that NEOTAXIS_SECOND_TRY names.
import { appendFileSync } from 'node:fs'

export default class SecondTry {
  onTestCaseResult(test) {
    const { retryCount = 0 } = test.diagnostic() ?? {}
    if (retryCount > 0 && test.result().state === 'passed')
      appendFileSync(
        process.env.NEOTAXIS_SECOND_TRY,
        `CAME RIGHT IN THE SECOND TRY ${test.module.relativeModuleId} › ${test.fullName}\n`,
      )
  }
}
