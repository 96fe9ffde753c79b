import { useEffect, useState } from 'react';
import type { Contract } from '@/api/client';
import { OrderButton } from '@/ui/OrderButton';
import { showKey } from './keymap';
import { useButtonsSend } from './openings';
import { type Tile, useSettings } from './settings';
import { useSettingsSheet } from './settingsSheetState';
import { prepare, runPrepared } from './tiles';

/** The labelled key deck: each tile says in words what it would send at this moment. */
export function ActionDeck({ contract }: { contract: Contract }) {
    const tiles = useSettings((settings) => settings['action-keys'].tiles);
    return (
        <div className="deck" data-field="deck">
            {tiles.map((tile) => (
                <DeckTile key={tile.name} tile={tile} contract={contract} />
            ))}
            <button
                type="button"
                className="order-button small"
                onClick={() => useSettingsSheet.setState({ open: true, page: 'action-keys' })}
            >
                {tiles.length === 0 ? 'Make an action key' : 'edit'}
            </button>
        </div>
    );
}

const LOOK_MS = 250;

function DeckTile({ tile, contract }: { tile: Tile; contract: Contract }) {
    const [prepared, setPrepared] = useState(() => prepare(tile, contract));
    const sends = useButtonsSend();
    // Prices change all the time: the words follow four times a second, which an eye can read.
    useEffect(() => {
        const look = () => setPrepared(prepare(tile, contract));
        look();
        const timer = window.setInterval(look, LOOK_MS);
        return () => window.clearInterval(timer);
    }, [tile, contract]);
    return (
        <OrderButton
            name={`tile-${tile.name}`}
            keyName={tile.key === null ? undefined : showKey(tile.key)}
            act={() => void runPrepared(prepared)}
            label={
                <span className="tile">
                    <b>{tile.name}</b>
                    <small>
                        {prepared.words}
                        {!sends && tile.steps.some((step) => step.do === 'order') && ' · draft'}
                    </small>
                </span>
            }
        />
    );
}
