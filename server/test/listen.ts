export interface Listening {
  /** numbers of the events, as they came */
  readonly heard: readonly number[];
  /** the connection ends, as of a tablet that sleeps, and begins again */
  doze(): void;
  close(): void;
}

/** Listens to a run as a bench does: again where the connection ends, from what it heard last. */
export function listen(url: string, runId: string): Listening {
  const heard: number[] = [];
  let isOver = false;
  let stream = new AbortController();
  const open = async () => {
    while (!isOver) {
      stream = new AbortController();
      try {
        const answer = await fetch(`${url}/api/runs/${runId}/stream?last=${heard.at(-1) ?? 0}`, { signal: stream.signal });
        const decoder = new TextDecoder();
        let text = '';
        for await (const piece of answer.body as unknown as AsyncIterable<Uint8Array>) {
          text += decoder.decode(piece, { stream: true });
          const messages = text.split('\n\n');
          text = messages.pop() ?? '';
          for (const m of messages) if (/^event: event$/m.test(m)) heard.push(Number(/^id: (\d+)$/m.exec(m)?.[1]));
        }
      } catch {
        await new Promise((done) => setTimeout(done, 100));
      }
    }
  };
  void open();
  return {
    heard,
    doze: () => stream.abort(),
    close: () => {
      isOver = true;
      stream.abort();
    },
  };
}
