/** Until people can sign in there is one person, at this machine. */
export const localPerson = { name: 'you' } as const
