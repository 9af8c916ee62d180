/** An issue as an outside tracker tells it. */
export interface TrackerIssue {
  readonly ref: string
  readonly title: string
  readonly state: string
  readonly who: string
  readonly text: string
  readonly url: string
  readonly changedAt: number | null
}

/** What Rovant asks of a tracker, whichever it is. A tracker that cannot be asked is answered by a sentence. */
export interface Tracker {
  readonly issue: (ref: string) => Promise<TrackerIssue | null>
  readonly search: (words: string) => Promise<TrackerIssue[]>
}
export class TrackerProblem extends Error {}
