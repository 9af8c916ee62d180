/** The same text in small letters, and the compiler knows which. */
export const lower = <Text extends string>(text: Text): Lowercase<Text> => text.toLowerCase() as Lowercase<Text>
