// ISO 4217 list one, as the npm package currency-codes carries it: alphabetic code → digits of the minor unit.
import codes from 'currency-codes';

console.log(JSON.stringify(Object.fromEntries(codes.data.map((currency) => [currency.code, currency.digits]))));
