/** What happens to every object that has a key, in the words that follow a person's name. */
const kept = {
  created: 'made it',
  changed: 'changed it',
  deleted: 'deleted it',
  restored: 'brought it back',
  commented: 'wrote a comment',
  'file attached': 'attached a file',
  'file taken away': 'took a file away',
  'file brought back': 'brought a file back',
} as const
const linked = { linked: 'linked it', unlinked: 'took a link away' } as const
const imported = { imported: 'imported it', 'taken back': 'took an import of it back' } as const
const stateMoves = {
  reported: 'reported it',
  confirmed: 'confirmed it',
  'in repair': 'took it into repair',
  'ready to retest': 'said it is ready to retest',
  closed: 'closed it',
  rejected: 'rejected it',
} as const

/** Every act there is: to which kind it is done, and how a person reads it. What is stored is the name; it never changes. */
export const acts = {
  requirement: {
    ...kept,
    ...linked,
    ...imported,
    moved: 'moved it in the outline',
    split: 'split it',
    merged: 'merged it',
    fetched: 'fetched it from outside',
    'link confirmed': 'confirmed a link',
    'model added': 'added a model',
    'model changed': 'changed a model',
    'model confirmed': 'confirmed a model against it',
    'model renamed': 'named a model anew',
    'model taken away': 'took a model away',
    'model brought back': 'brought a model back',
    'cases accepted': 'accepted proposed cases',
    'rows decided': 'decided about proposed rows',
    'checklist written': 'wrote its checklist',
    'checklist changed': 'changed its checklist',
  },
  case: {
    ...kept,
    ...linked,
    ...imported,
    written: 'wrote in it',
    version: 'cut a version',
    'review asked': 'asked for its review',
    'sent back': 'sent it back',
    approved: 'approved it',
    'changes suggested': 'suggested changes',
    'suggestion taken': 'took a suggestion',
    'suggestion declined': 'declined a suggestion',
    'link changed': 'changed what a link says',
    copied: 'copied it to another project',
    moved: 'moved it to another project',
    merged: 'merged it',
    unmerged: 'took a merge back',
    retired: 'retired it',
    'live again': 'made it live again',
  },
  routine: { ...kept, written: 'wrote in it', version: 'cut a version' },
  plan: {
    ...kept,
    'dealt again': 'dealt its spread cases again',
    'carried over': 'carried it over from another plan',
    'review asked': 'asked for its review',
    approved: 'signed it',
    'signed off': 'signed it as the last who was asked',
    'sent back': 'sent it back',
    'criterion added': 'added a criterion',
    'criterion changed': 'changed a criterion',
    'criterion taken away': 'took a criterion away',
    'criterion brought back': 'brought a criterion back',
    'criterion waived': 'waived a criterion',
    'waiver ended': 'ended a waiver',
  },
  suite: {
    ...kept,
    pinned: 'pinned cases or took pins out',
    'put in order': 'put its cases in order',
    'source added': 'added a source',
    'source changed': 'changed a source',
    'source taken away': 'took a source away',
    'source brought back': 'brought a source back',
    'cases left out': 'left cases out or let them in again',
  },
  run: {
    ...kept,
    planned: 'planned it',
    open: 'opened it again',
    opened: 'opened it',
    closed: 'closed it',
    aborted: 'ended it early',
    'policy changed': 'changed its rules',
    split: 'split it',
    merged: 'merged it',
    'merge taken back': 'took a merge of it back',
    assigned: 'changed items',
    dealt: 'dealt items evenly',
    'items added': 'put items into it',
    'items dropped': 'took items out of it',
    'items placed': 'put its items into another order',
    'items brought back': 'brought items back into it',
  },
  defect: { ...kept, ...linked, ...stateMoves },
  attempt: {
    started: 'started an attempt',
    recorded: 'recorded a verdict',
    'struck out': 'struck it out',
    'brought back': 'took striking it out back',
    'put right': 'put right where it was made',
    amended: 'amended a verdict after the close of the run',
    'recorded after the close': 'recorded a verdict after the close of the run',
    commented: 'wrote a comment',
    evidence: 'added evidence',
    'evidence removed': 'took evidence away',
    'build corrected': 'corrected the build of an attempt',
    doubted: 'doubted an attempt',
    'believed again': 'believed an attempt again',
  },
  folder: {
    created: 'made a folder',
    renamed: 'named a folder anew',
    moved: 'moved a folder',
    deleted: 'took a folder away',
    mirrored: 'made folders of the requirements',
  },
  table: {
    created: 'made a data table',
    changed: 'changed a data table',
    deleted: 'took a data table away',
    restored: 'brought a data table back',
    'row checked out': 'checked out a row',
    'row given back': 'gave a row back',
  },
  template: { created: 'made a template', deleted: 'took a template away', restored: 'brought a template back' },
  model: { stored: 'wrote a model' },
  mapping: {
    kept: 'kept a mapping',
    ended: 'ended a standing import',
    restored: 'took a standing import up again',
  },
  field: { defined: 'defined a field', changed: 'changed a field', 'taken away': 'took a field away' },
  project: {
    changed: 'changed the project',
    'tracker connected': 'connected a tracker',
    'tracker taken away': 'took the tracker away',
    'person brought in': 'brought somebody into the project',
    'person taken out': 'took somebody out of the project',
    'role changed': 'changed the role of somebody',
    'work handed over': 'handed open work over',
    'hours changed': 'changed the hours of somebody',
    'policy changed': 'changed the rules of its runs',
    'attempts doubted': 'doubted attempts',
    'doubt lifted': 'lifted a doubt',
    'verdict added': 'added a verdict',
    'verdict changed': 'changed a verdict',
    'verdict retired': 'retired a verdict',
    'reason added': 'added a reason',
    'reason retired': 'retired a reason',
  },
  release: { created: 'made a release', changed: 'changed a release' },
  iteration: { created: 'made an iteration' },
  environment: {
    created: 'made an environment',
    changed: 'changed an environment',
    'taken away': 'took an environment away',
    restored: 'brought an environment back',
    'outage said': 'said that an environment is not to be used',
    'outage changed': 'changed an outage',
    'outage ended': 'ended an outage',
    'outage taken back': 'took an outage back',
    'outage said again': 'said an outage again',
    'outage doubted': 'doubted the attempts of an outage',
    'outage believed': 'believed the attempts of an outage again',
    installed: 'said which build stands in an environment',
    'installation corrected': 'corrected which build stands in an environment',
    'installation taken back': 'took back which build stands in an environment',
    'installation said again': 'said again which build stands in an environment',
  },
  build: {
    intake: 'took a build into intake',
    offered: 'offered a build',
    refused: 'refused a build',
    withdrawn: 'withdrew a build',
    changed: 'changed a build',
  },
} as const satisfies Readonly<Record<string, Readonly<Record<string, string>>>>

/** What acts are done to. */
type ActKind = keyof typeof acts
export const actKinds = Object.keys(acts) as [ActKind, ...ActKind[]]
/** What can be done to a kind. */
export type ActionOf<Kind extends ActKind> = keyof (typeof acts)[Kind] & string

/** An act: a kind, and one of what can be done to it. History, events, the inbox and whatever is told of a change read this. */
export type Act = { [Kind in ActKind]: { readonly kind: Kind; readonly action: ActionOf<Kind> } }[ActKind]

const table: Readonly<Record<string, Readonly<Record<string, string>>>> = acts

/** An act as a person reads it. One that an older release stored and this one does not know is read as it stands. */
export const actWords = (kind: string, action: string): string =>
  isAct(kind, action) ? (table[kind]?.[action] ?? action) : action

/** Is it an act this release knows? */
export const isAct = (kind: string, action: string): boolean =>
  Object.hasOwn(table, kind) && Object.hasOwn(table[kind] ?? {}, action)
