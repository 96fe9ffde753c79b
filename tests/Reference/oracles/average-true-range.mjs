// Reads {"length", "high", "low", "close"} on standard input and writes the average true ranges of technicalindicators.
import { createRequire } from 'node:module';
import { text } from 'node:stream/consumers';

// The package's ES modules name each other without endings, which Node refuses; its CommonJS build loads.
const { ATR } = createRequire(import.meta.url)('technicalindicators');
const { length, high, low, close } = JSON.parse(await text(process.stdin));
console.log(JSON.stringify(ATR.calculate({ period: length, high, low, close })));
