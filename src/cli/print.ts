/** JSON for programs, or lines for people. */
export function print(json: boolean | undefined, value: unknown, lines: () => readonly string[]): void {
  process.stdout.write(json ? `${JSON.stringify(value)}\n` : `${lines().join('\n')}\n`)
}
