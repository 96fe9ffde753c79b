// Reads {"price", "volume"} on standard input and writes the volume-weighted average prices of technicalindicators.
import { createRequire } from 'node:module';
import { text } from 'node:stream/consumers';

// The package's ES modules name each other without endings, which Node refuses; its CommonJS build loads.
const { VWAP } = createRequire(import.meta.url)('technicalindicators');
const { price, volume } = JSON.parse(await text(process.stdin));
// It takes the mean of a bar's high, low and close: a bar of one print has but one price.
console.log(JSON.stringify(VWAP.calculate({ open: price, high: price, low: price, close: price, volume })));
