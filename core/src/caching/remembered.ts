/**
 * A function of a text that gives back what it made before; a library asks for the same few thousand. Forgets
 * everything when it knows more than `most`.
 */
export function remembered<Value>(most: number, make: (text: string) => Value): (text: string) => Value {
  const known = new Map<string, Value>()
  return (text) => {
    const before = known.get(text)
    if (before !== undefined) return before
    if (known.size >= most) known.clear()
    const made = make(text)
    known.set(text, made)
    return made
  }
}
