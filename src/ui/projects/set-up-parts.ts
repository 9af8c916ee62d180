/** A part of the set-up: a page of its own, with what can be found in it. */
export interface SetUpPart {
  /** The last part of its address. */
  readonly name: string
  readonly title: string
  readonly of: 'project' | 'installation'
  readonly explains: string
  /** Names of its settings, as they stand there, with other words people look for. */
  readonly settings: readonly string[]
}

export const setUpParts = [
  {
    name: 'rules',
    title: 'Rules',
    of: 'project',
    explains:
      'How this project works, for everybody in it. What is changed here counts at once, also for figures of before.',
    settings: [
      'Name',
      'Age of a result: days after which it is too old, freshness, stale',
      'Approval before cases are executed',
      'Reason of a version',
      'Second factor, code at sign-in',
    ],
  },
  {
    name: 'time',
    title: 'Time and worth',
    of: 'project',
    explains:
      'The days that are worked, what of the time no item is planned into, and what makes an item worth executing when there is too little of it.',
    settings: [
      'Working days, calendar',
      'Holidays',
      'Kept for retests, reserve',
      'Another environment: set-up minutes, switch',
      'Worth: weights, risk, chance to learn something',
    ],
  },
  {
    name: 'people',
    title: 'People',
    of: 'project',
    explains:
      'Who is in this project, what each may do, and how much of their time is for it. Somebody’s page says what they do and when they are away.',
    settings: [
      'Bring people in, invite',
      'Role',
      'Share of their time, hours, capacity',
      'Skills',
      'Hand over work',
      'Take out',
    ],
  },
  {
    name: 'roles',
    title: 'Roles',
    of: 'project',
    explains: 'What each role may do. It is the same table by which every request is judged.',
    settings: ['Viewer, tester, lead, administrator: permissions, rights'],
  },
  {
    name: 'releases',
    title: 'Releases and builds',
    of: 'project',
    explains:
      'What is tested: a release with its iterations, and the builds that are offered for testing, newest first.',
    settings: [
      'Builds: offer, refuse, withdraw, intake',
      'What a build touches, changed paths',
      'Smoke suite',
      'Releases',
      'Iterations',
    ],
  },
  {
    name: 'environments',
    title: 'Environments',
    of: 'project',
    explains: 'Where it is tested. A result counts for its environment alone.',
    settings: [
      'Environments: engine, device',
      'Seats',
      'Owner, address of the instance',
      'Factors and values',
      'Not allowed: forbidden combinations',
      'Outages, out of use',
    ],
  },
  {
    name: 'fields',
    title: 'Own fields',
    of: 'project',
    explains:
      'What requirements and cases say here beyond what they say everywhere. A field stands on every sheet, in filters, imports and exports.',
    settings: ['Own fields, custom fields', 'Choices', 'Required'],
  },
  {
    name: 'verdicts',
    title: 'Words and verdicts',
    of: 'project',
    explains: 'The verdicts a tester may give, with what each counts as in every figure, and the reasons for them.',
    settings: [
      'Verdicts: passed, failed, blocked, inconclusive, skipped',
      'Own verdicts: word, counts as, sign, tint, retire',
      'Reasons for a verdict',
    ],
  },
  {
    name: 'policies',
    title: 'Policy of runs',
    of: 'project',
    explains:
      'Who decides, who records, what is asked for and when a run closes: four sentences that hold for every run without rules of its own.',
    settings: [
      'Who decides: steps, tester',
      'Who records: anyone, the named person, free items',
      'Asked for beside a verdict: a word, a reason, evidence, a defect',
      'When a run closes, amending results, approved versions, spoiled results',
    ],
  },
  {
    name: 'tables',
    title: 'Tables and templates',
    of: 'project',
    explains: 'Rows of values that cases share, with who has one checked out; and templates that new cases begin from.',
    settings: ['Data tables', 'Templates'],
  },
  {
    name: 'tracker',
    title: 'Tracker',
    of: 'project',
    explains: 'An outside tracker that requirements are fetched from and followed in.',
    settings: ['Tracker: address, token'],
  },
  {
    name: 'imports',
    title: 'Standing imports',
    of: 'project',
    explains: 'Files that are read again and again, by one key or on a schedule.',
    settings: ['Standing imports, schedule, incoming files'],
  },
  {
    name: 'everybody',
    title: 'Everybody',
    of: 'installation',
    explains:
      'All people of this installation, in whatever project. Ending somebody’s access leaves all they did, in their name.',
    settings: [
      'Invite people, several at once, CSV',
      'End access, deactivate',
      'End sign-ins',
      'Link for a new password',
      'Administrators',
    ],
  },
  {
    name: 'groups',
    title: 'Groups',
    of: 'installation',
    explains:
      'People who get the same roles together. Whoever joins or leaves a group gets or loses what it gives, at once.',
    settings: ['Groups and the roles they give'],
  },
  {
    name: 'sign-in',
    title: 'Signing in',
    of: 'installation',
    explains: 'How people come in, and what else of the own network may be asked from here.',
    settings: ['Second factor for everybody', 'Mail for invitations', 'Single sign-on, OpenID Connect', 'Hosts inside'],
  },
  {
    name: 'storage',
    title: 'Storage',
    of: 'installation',
    explains: 'What this installation keeps, how much of it there is, and how it is backed up.',
    settings: ['Database, evidence, disk, backup'],
  },
  {
    name: 'security',
    title: 'Security events',
    of: 'installation',
    explains:
      'Who came in or tried to, whose role, password or token changed, and what was exported. Nothing here can be changed or deleted.',
    settings: ['Sign-ins, failures, roles, tokens, exports, audit'],
  },
] as const satisfies readonly SetUpPart[]
export type SetUpName = (typeof setUpParts)[number]['name']

/** Parts that hold all the words, with the settings that do. */
export function findParts(
  parts: readonly SetUpPart[],
  text: string,
): { readonly part: SetUpPart; readonly settings: readonly string[] }[] {
  const words = text
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '')
  const holds = (told: string) => words.every((word) => told.toLowerCase().includes(word))
  return parts.flatMap((part) => {
    const settings = part.settings.filter(holds)
    return settings.length > 0 || holds(`${part.title} ${part.explains}`) ? [{ part, settings }] : []
  })
}
