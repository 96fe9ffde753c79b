import clsx from 'clsx';
import { type RefObject, useRef } from 'react';
import { flatten } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { chooseContract, useChoices } from '@/model/choices';
import type { LadderActs } from '@/model/ladderActs';
import { addLadder, bringToFront, closeLadder, type LadderState, MAX_LADDERS, nextLadder, useLadders } from '@/model/ladders';
import { useOneClick } from '@/model/oneClick';
import { countLots } from '@/model/prices';
import { useDesk } from '@/stream/store';
import { Button } from '@/ui/Button';
import { OrderButton } from '@/ui/OrderButton';
import { Select } from '@/ui/Select';
import { Ladder } from './Ladder';
import { WORDS } from './words';

interface Props {
    ladder: LadderState;
    onCancel: (id: number) => void;
    acts: RefObject<LadderActs | null>;
}

/**
 * One of up to four ladders. Each shows and sends what its own contract, lots, plan and one-click make of a press, which also brings it
 * in front; the pointer alone never does. While there are several, its head says what it would send and whether keys act on it.
 */
export function LadderSlot({ ladder, onCancel, acts }: Props) {
    const count = useLadders((state) => state.list.length);
    const isFront = useLadders((state) => state.front === ladder.id);
    const hidden = useLadders((state) => state.hidden.length);
    const live = useChoices();
    const oneClick = useOneClick((state) => state.on);
    const nowhere = useRef<LadderActs | null>(null);
    const { code, lots, plan } = isFront ? live : ladder;
    const contract = live.contracts.find((listed) => listed.code === code);
    if (!contract) return null;
    const front = () => bringToFront(ladder.id);
    return (
        <div
            className="@container/slot flex h-full min-h-0 min-w-0 flex-col"
            data-part="ladder-slot"
            data-front={(count > 1 && isFront) || undefined}
            data-ladder={ladder.id}
            onPointerDownCapture={front}
        >
            {count > 1 && (
                <header
                    className={clsx(
                        'flex min-h-26 flex-wrap items-center gap-x-8 border-t-3 border-r border-r-rule px-8 text-small whitespace-nowrap',
                        isFront ? 'border-t-ink bg-raised text-ink' : 'border-t-transparent text-soft',
                    )}
                    data-part="slot-head"
                >
                    <small title={WORDS.panelsCanFollow(ladder.id)}>{ladder.id}</small>
                    <Select
                        look="plain"
                        className="font-bold text-ink"
                        aria-label={WORDS.contractOfLadder(ladder.id)}
                        value={code}
                        onChange={(event) => chooseContract(event.target.value)}
                    >
                        {live.contracts.map((listed) => (
                            <option key={listed.code}>{listed.code}</option>
                        ))}
                    </Select>
                    <b className="text-ink">{isFront && 'active'}</b>
                    {/* In a narrow ladder what it would send, and its position, take a row of their own. */}
                    <span className="flex min-w-0 flex-1 items-center gap-8 @max-[480px]/slot:order-last @max-[480px]/slot:min-w-full">
                        <span className="truncate" data-field="slot">
                            {countLots(lots)} · {live.plans.find((candidate) => candidate.id === plan)?.document.name ?? 'no plan'} ·
                            one-click {(isFront ? oneClick : ladder.oneClick) ? 'on' : 'off'}
                        </span>
                        <span className="flex-1" />
                        <SlotPosition code={code} />
                    </span>
                    <span className="ml-auto flex gap-6">
                        {hidden > 0 && (
                            <Button tone="small" data-action="hidden-ladders" title={WORDS.hiddenLadders(hidden)} onClick={nextLadder}>
                                {hidden} more ›
                            </Button>
                        )}
                        {count < MAX_LADDERS && isFront && (
                            <Button tone="small" data-action="add-ladder" onClick={addLadder}>
                                + ladder
                            </Button>
                        )}
                        <Button tone="small" aria-label={WORDS.closeLadder(ladder.id)} onClick={() => closeLadder(ladder.id)}>
                            ×
                        </Button>
                    </span>
                </header>
            )}
            <Ladder
                contract={contract}
                onCancel={onCancel}
                acts={isFront ? acts : nowhere}
                isFront={isFront}
                own={isFront ? null : ladder}
            />
        </div>
    );
}

/** Beside several ladders the cards are those of the one in front: each head has its own position and its own way out. */
function SlotPosition({ code }: { code: string }) {
    const words = useDesk((desk) => (desk.positions[code]?.quantity ? desk.positions[code]?.words : undefined));
    if (words === undefined) return null;
    return (
        <>
            <b className="text-ink" data-field="slot-position">
                {words}
            </b>
            <OrderButton tone="small" label="Flatten" act={() => void flatten(groundOf(code))} name={`flatten-${code}`} />
        </>
    );
}
