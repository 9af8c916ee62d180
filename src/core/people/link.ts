/** What a one-time link is for: to come in for the first time, or to choose a new password. */
export const linkPurposes = ['invitation', 'password'] as const
export type LinkPurpose = (typeof linkPurposes)[number]

const hour = 3_600_000
/** How long a link works, in milliseconds. */
export const linkLasts: Readonly<Record<LinkPurpose, number>> = { invitation: 7 * 24 * hour, password: 2 * hour }
