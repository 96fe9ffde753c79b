// Values of one field of a FIX dictionary, as the npm package jspurefix carries it: value → name.
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const [, , dictionary, tag] = process.argv;
const file = createRequire(import.meta.url).resolve('jspurefix/package.json').replace('package.json', `data/${dictionary}.xml`);
const field = new RegExp(`<field number=['"]${tag}['"][^>]*>([\\s\\S]*?)</field>`).exec(readFileSync(file, 'utf8'));
if (field === null) throw new Error(`${dictionary} has no field ${tag} with values`);
const values = {};
for (const [value] of field[1].matchAll(/<value [^>]*>/g)) {
    values[/enum=['"]([^'"]*)/.exec(value)[1]] = /description=['"]([^'"]*)/.exec(value)[1];
}
console.log(JSON.stringify(values));
