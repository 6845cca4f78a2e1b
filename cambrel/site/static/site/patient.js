// An answer of the server, which is asked again where it says that it is busy, when it says to.
const MOST_TIMES = 60;

export async function patient(address, options = {}) {
  for (let times = 1; ; times += 1) {
    const answer = await fetch(address, options);
    if ((answer.status !== 503 && answer.status !== 429) || times === MOST_TIMES) return answer;
    const seconds = Number(answer.headers.get("Retry-After")) || 1;
    await new Promise((done) => setTimeout(done, 1000 * seconds * (0.5 + Math.random())));
    options.signal?.throwIfAborted();
  }
}
