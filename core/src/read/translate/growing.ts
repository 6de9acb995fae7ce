/** A typed array that grows by doubling; `take` gives what was pushed, without copying. */
export class GrowingFloats {
  private data = new Float32Array(1024)
  length = 0
  push(value: number): void {
    if (this.length === this.data.length) {
      const next = new Float32Array(this.length * 2)
      next.set(this.data)
      this.data = next
    }
    this.data[this.length++] = value
  }
  at(index: number): number {
    return this.data[index]!
  }
  take(): Float32Array {
    return this.data.subarray(0, this.length)
  }
}

export class GrowingInts {
  private data = new Int32Array(1024)
  length = 0
  push(value: number): void {
    if (this.length === this.data.length) {
      const next = new Int32Array(this.length * 2)
      next.set(this.data)
      this.data = next
    }
    this.data[this.length++] = value
  }
  take(): Int32Array {
    return this.data.subarray(0, this.length)
  }
}
