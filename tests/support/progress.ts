import type { Reporter, TestModule, TestSpecification } from 'vitest/node'

/** Says after each file how far the run is. */
export default class Progress implements Reporter {
  private total = 0
  private done = 0
  private start = 0

  onTestRunStart(specifications: readonly TestSpecification[]): void {
    this.total = specifications.length
    this.start = performance.now()
  }

  onTestModuleEnd(module: TestModule): void {
    this.done++
    const seconds = (module.diagnostic().duration / 1000).toFixed(1)
    const since = Math.round((performance.now() - this.start) / 1000)
    console.log(`${this.done} of ${this.total} files after ${since} s: ${module.relativeModuleId} (${seconds} s)`)
  }
}
