// Runs a stream of operations (JSON lines on standard input) through nodejs-order-book and writes the fills of
// resting orders, one JSON line an operation, and the depth at the end. `--bench` only times it.
import { createInterface } from 'node:readline';
import { OrderBook } from 'nodejs-order-book';

const lines = [];
for await (const line of createInterface({ input: process.stdin })) lines.push(JSON.parse(line));

const run = (emit) => {
    const book = new OrderBook();
    for (const [op, id, side, price, size] of lines) {
        let answer = null;
        if (op === 'limit') answer = book.limit({ id: String(id), side, size, price });
        else if (op === 'market') answer = book.market({ side, size });
        else answer = book.cancel(String(id));
        if (emit) {
            // The incoming order itself stands among the done, or as the partial one; only resting orders count here.
            const makers = [...(answer?.done ?? []).map((o) => [o.id, o.size]), ...(answer?.partial ? [[answer.partial.id, answer.partialQuantityProcessed]] : [])];
            emit(JSON.stringify(makers.filter(([maker]) => op !== 'cancel' && maker !== String(id)).map(([maker, lots]) => [Number(maker), lots])));
        }
    }
    return book;
};

if (process.argv.includes('--bench')) {
    const start = process.hrtime.bigint();
    run(null);
    console.log(Number(process.hrtime.bigint() - start) / 1e9);
} else {
    const out = [];
    const book = run((line) => out.push(line));
    const [asks, bids] = book.depth();
    out.push(JSON.stringify({ asks, bids }));
    console.log(out.join('\n'));
}
