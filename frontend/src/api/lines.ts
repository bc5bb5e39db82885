/** Answers that come in line by line. */

/** The lines of a body of text, each as soon as it is there; the last one ends with a newline, too. */
export async function* linesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = body.pipeThrough(new TextDecoderStream() as never as TransformStream<Uint8Array, string>).getReader()
  let begun: string[] = []
  for (;;) {
    const { done, value } = await reader.read()
    if (done) return
    const [first, ...others] = value.split('\n')
    begun.push(first!)
    for (const next of others) {
      yield begun.join('')
      begun = [next]
    }
  }
}
