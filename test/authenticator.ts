import { Secret, TOTP } from 'otpauth'

/** The code an authenticator shows now for a secret as it is told, in base 32 (RFC 6238). */
export const codeFor = (secret: string): string => new TOTP({ secret: Secret.fromBase32(secret) }).generate()
