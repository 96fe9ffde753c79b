import { useEffect } from 'react';
import { type Contract, Problem } from '@/api/client';
import { prepare, runPrepared, usePainted } from '@/commands/actionTiles';
import { useButtonsSend } from '@/commands/openByButton';
import { basisOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { showKey } from '@/model/keymap';
import { type Tile, useSettings } from '@/model/settings';
import { useSettingsSheet } from '@/model/settingsSheetState';
import { usePointed } from '@/model/useSpot';
import { deskNow } from '@/stream/store';
import { Button } from '@/ui/Button';
import { OrderButton } from '@/ui/OrderButton';
import { inSight } from '@/ui/windows';

/** Prices change all the time: the words follow four times a second, which an eye can read. */
const LOOK_MS = 250;

/** No order in it: what it does hangs on no price. */
const isSure = (tile: Tile): boolean => tile.steps.every((step) => step.do !== 'order');

/** Asks what the tiles would send while somebody sees them, one question for all of them. */
function usePainting(tiles: readonly Tile[], contract: Contract): void {
    useEffect(() => {
        const abort = new AbortController();
        let isAsking = false;
        /** what the tiles that are painted rest on */
        let painted = '';
        const look = async () => {
            const { books, positions, feed } = deskNow();
            const { bestBid, bestAsk, last } = books[contract.code] ?? {};
            const restsOn = JSON.stringify([
                [feed, bestBid, bestAsk, last?.price, positions[contract.code]?.sequence, usePointed.getState().tick],
                basisOf(contract.code),
                useChoices.getState().plans.map((plan) => [plan.id, plan.version]),
            ]);
            if (isAsking || inSight() === null || restsOn === painted) return;
            isAsking = true;
            try {
                usePainted.setState({ tiles: await prepare(feed === 'live' ? tiles : tiles.filter(isSure), contract, abort.signal) });
                painted = restsOn;
            } catch (error) {
                painted = '';
                // What is not known is not shown: a tile of before would be sent as it was. What only closes or cancels needs no price.
                if (error instanceof Problem) usePainted.setState({ tiles: await prepare(tiles.filter(isSure), contract) });
            } finally {
                isAsking = false;
            }
        };
        void look();
        const timer = window.setInterval(() => void look(), LOOK_MS);
        return () => {
            abort.abort();
            window.clearInterval(timer);
            usePainted.setState({ tiles: [] });
        };
    }, [tiles, contract]);
}

/** The labelled key deck: each tile says in words what it would send at this moment. */
export function ActionDeck({ contract }: { contract: Contract }) {
    const tiles = useSettings((settings) => settings['action-keys'].tiles);
    usePainting(tiles, contract);
    return (
        <div className="flex h-full flex-wrap content-start gap-6 overflow-y-auto px-14 py-6" data-field="deck">
            {tiles.map((tile) => (
                <DeckTile key={tile.name} tile={tile} />
            ))}
            <Button tone="small" onClick={() => useSettingsSheet.setState({ open: true, page: 'action-keys' })}>
                {tiles.length === 0 ? 'Make an action key' : 'edit'}
            </Button>
        </div>
    );
}

function DeckTile({ tile }: { tile: Tile }) {
    const prepared = usePainted((painted) => painted.tiles.find((one) => one.tile === tile));
    const sends = useButtonsSend();
    return (
        <OrderButton
            tone="tile"
            name={`tile-${tile.name}`}
            keyName={tile.key === null ? undefined : showKey(tile.key)}
            disabled={prepared === undefined}
            act={() => prepared && void runPrepared(prepared)}
            label={
                <span className="grid flex-1">
                    <b>{tile.name}</b>
                    <small className="font-mono text-tiny leading-[normal] text-soft">
                        {prepared?.words ?? '…'}
                        {!sends && tile.steps.some((step) => step.do === 'order') && (tile.steps.length > 1 ? ' · asks' : ' · draft')}
                    </small>
                </span>
            }
        />
    );
}
