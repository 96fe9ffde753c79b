import type { Contract } from '@/api/client';
import { Select } from '@/ui/Select';
import { TextField } from '@/ui/TextField';
import { NUMBER } from './looks';
import { useEditor } from './state';
import { WORDS } from './words';

/** The order that the plan is looked at with. */
export function SampleRow({ contract, contracts }: { contract: Contract; contracts: Contract[] }) {
    const sample = useEditor((editor) => editor.sample);
    const set = (change: Partial<typeof sample>) => useEditor.setState({ sample: { ...sample, ...change } });
    return (
        <p className="mb-4 flex items-center gap-10 whitespace-nowrap">
            Sample{' '}
            <Select
                className="field-sizing-content"
                aria-label="Sample, side"
                value={sample.side}
                data-name="sample-side"
                onChange={(event) => set({ side: event.target.value as 'buy' | 'sell' })}
            >
                <option value="buy">buy</option>
                <option value="sell">sell</option>
            </Select>
            <input
                className={NUMBER}
                type="number"
                min={1}
                max={10000}
                aria-label="Sample, lots"
                value={sample.quantity}
                data-name="sample-quantity"
                onChange={(event) => set({ quantity: Math.max(1, Number.parseInt(event.target.value, 10) || 1) })}
            />
            <Select
                className="field-sizing-content"
                aria-label="Sample, contract"
                value={sample.contract}
                data-name="sample-contract"
                onChange={(event) => set({ contract: event.target.value, price: '' })}
            >
                {contracts.map((candidate) => (
                    <option key={candidate.code}>{candidate.code}</option>
                ))}
            </Select>
            at{' '}
            <TextField
                className="w-90 text-usual"
                inputMode="decimal"
                aria-label="Sample, price"
                placeholder="last trade"
                value={sample.price}
                data-name="sample-price"
                onChange={(event) => set({ price: event.target.value })}
            />
            <small className="font-mono text-small leading-[normal] text-soft">
                {WORDS.oneTickIs(contract.tick_size, contract.tick_value, contract.currency)}
            </small>
        </p>
    );
}
