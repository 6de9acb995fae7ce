// What every JavaScript host that core runs in has, beyond the language itself: Node, workers and pages.
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean })
  decode(input?: Uint8Array): string
}
declare class TextEncoder {
  encode(input?: string): Uint8Array<ArrayBuffer>
}
declare function atob(base64: string): string
declare function btoa(bytes: string): string
