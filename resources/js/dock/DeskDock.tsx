import {
    type DockviewApi,
    DockviewReact,
    type DockviewReadyEvent,
    type IDockviewHeaderActionsProps,
    type IDockviewPanelHeaderProps,
    type IDockviewPanelProps,
} from 'dockview-react';
import { type FunctionComponent, memo, useEffect, useMemo, useRef } from 'react';
import { closeLadder, useLadders } from '@/model/ladders';
import { JustSaid } from '@/panels/justSaid/JustSaid';
import { LadderSlot } from '@/panels/ladder/LadderSlot';
import { OrderCard } from '@/panels/nextOrder/OrderCard';
import { PositionCard } from '@/panels/position/PositionCard';
import { useDesk } from '@/stream/store';
import { Boundary } from '@/ui/Boundary';
import { Button } from '@/ui/Button';
import { later } from '@/ui/later';
import { useLetters } from '@/ui/letters';
import {
    addLadderPanel,
    cardsWidth,
    keepArrangement,
    ladderPanel,
    lookAtLists,
    openFirst,
    ownWindow,
    PANELS,
    shareWidth,
    useDock,
} from './dock';
import { fitLadders } from './fitLadders';
import { inItsWindow } from './inItsWindow';
import { joinWindow } from './joinWindow';
import { keepAbove } from './keepAbove';
import { ListsTools } from './ListsTools';
import { type Shared, SharedContext, useShared } from './shared';
import { TabCount } from './TabCount';
import { useGroupWidth } from './useGroupWidth';
import { useIsShown } from './useIsShown';
import { WORDS } from './words';

function LadderPanel({ params }: IDockviewPanelProps<{ ladder: number }>) {
    const { onCancel, acts } = useShared();
    const ladder = useLadders((state) => state.list.find((one) => one.id === params.ladder));
    return ladder ? <LadderSlot ladder={ladder} onCancel={onCancel} acts={acts} /> : null;
}

function Cards() {
    const { account, contract } = useShared();
    const hasPosition = useDesk((desk) => (desk.positions[contract.code]?.quantity ?? 0) !== 0);
    const isBare = useDesk((desk) => (desk.positions[contract.code]?.bare ?? 0) > 0);
    return (
        // What buys, sells, protects and flattens stays in sight, however much the cards have to say, and what was just said does too:
        // the lines of the exits alone give way. Only a window that is too small for all of that scrolls.
        <div className="@container-size/cards h-full overflow-x-hidden overflow-y-auto scrollbar-thin">
            <aside className="grid h-full min-h-[21rem] grid-cols-[minmax(0,1fr)] grid-rows-[minmax(0,auto)_minmax(40px,1fr)] gap-6 py-6 pl-8 short:grid-rows-[minmax(0,auto)_minmax(1.0625rem,1fr)] short:gap-2 short:py-3">
                <div
                    className="group/cards grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[minmax(0,auto)_auto] gap-6 pr-8 short:gap-3"
                    data-position={hasPosition || undefined}
                    data-alarm={isBare || undefined}
                >
                    <PositionCard contract={contract} />
                    <OrderCard account={account} contract={contract} />
                </div>
                <JustSaid />
            </aside>
        </div>
    );
}

/** The dock keeps a list behind another's tab alive: it would follow the market, and ask the server, for nobody. */
const list = (Content: FunctionComponent): FunctionComponent<IDockviewPanelProps> =>
    function List({ api }) {
        const isShown = useIsShown(api);
        return (
            <div className="@container/list h-full min-h-0 bg-raised" data-part="list">
                {isShown && <Content />}
            </div>
        );
    };

/** Fetched apart: the first ladder does not wait for them. */
const ListContent = later<{ id: string }>(() => import('./ListContent').then((module) => module.ListContent));

const LISTS = Object.keys(PANELS).filter((id) => id !== 'cards');

const contents: Record<string, FunctionComponent<IDockviewPanelProps>> = {
    ladder: LadderPanel as FunctionComponent<IDockviewPanelProps>,
    cards: Cards,
    ...Object.fromEntries(LISTS.map((id) => [id, list(() => <ListContent id={id} />)])),
};

/** A fault in one panel takes none of the others along. */
const guarded = (Content: FunctionComponent<IDockviewPanelProps>): FunctionComponent<IDockviewPanelProps> =>
    function Guarded(props) {
        return (
            <Boundary panel={titleOf(props.api.id, props.api.title)}>
                <Content {...props} />
            </Boundary>
        );
    };

const components = Object.fromEntries(Object.entries(contents).map(([id, Content]) => [id, inItsWindow(guarded(Content))]));

const titleOf = (id: string, title?: string): string => title ?? PANELS[id] ?? id;

function Tab({ api }: IDockviewPanelHeaderProps) {
    const title = titleOf(api.id, api.title);
    return (
        <span className="flex h-full items-center gap-5 whitespace-nowrap" data-part="dock-tab" data-tab={api.id}>
            {title}
            <TabCount panel={api.id} title={title} />
        </span>
    );
}

/** Narrower groups have no room for all tools beside some tabs, in pixels. */
const TOOLS_WIDTH = 1250;

/** While the desk is arranged: what can be done with the panel in front. Else the clock and the tools stand beside the lists, wherever those are. */
function HeaderTools({ panels, activePanel, containerApi, api, group }: IDockviewHeaderActionsProps) {
    const arranging = useDock((state) => state.arranging);
    const width = useGroupWidth(group);
    const letters = useLetters((state) => Number(state.size));
    if (!arranging) return panels.some((panel) => panel.id === 'working') ? <ListsTools narrow={width < TOOLS_WIDTH * letters} /> : null;
    if (!activePanel) return null;
    const title = titleOf(activePanel.id, activePanel.title);
    return (
        <span className="flex h-full items-center gap-4 pr-6 whitespace-nowrap" data-part="panel-acts" data-panel={activePanel.id}>
            {api.location.type !== 'popout' && (
                <Button tone="small" title={WORDS.inOwnWindow(title)} onClick={() => ownWindow(containerApi, activePanel.id)}>
                    own window
                </Button>
            )}
            {activePanel.id !== 'cards' && (
                <Button tone="small" aria-label={`Hide ${title}`} onClick={() => activePanel.api.close()}>
                    hide
                </Button>
            )}
        </span>
    );
}

/** A group of one panel needs no tab, unless the desk is being arranged or it has a window of its own. */
function showHeads(api: DockviewApi, arranging: boolean): void {
    for (const group of api.groups)
        group.model.header.hidden =
            !arranging && group.panels.length === 1 && group.api.location.type === 'grid' && !(group.panels[0]?.id === 'working');
    api.updateOptions({ disableDnd: !arranging });
}

/** The desk's panels in a dock: resized by their edges at any time, moved and hidden while the desk is being arranged. */
export const DeskDock = memo(function DeskDock({ account, contract, onCancel, acts }: Shared) {
    const api = useDock((state) => state.api);
    const arranging = useDock((state) => state.arranging);
    const place = useRef<HTMLDivElement>(null);
    const shared = useMemo(() => ({ account, contract, onCancel, acts }), [account, contract, onCancel, acts]);
    const ladders = useLadders((state) => state.list);
    const letters = useLetters((state) => state.size);

    // Larger letters want wider cards; a width that was dragged stands until then.
    const fitted = useRef(letters);
    useEffect(() => {
        if (fitted.current === letters) return;
        fitted.current = letters;
        api?.getPanel('cards')?.api.setSize({ width: cardsWidth() });
    }, [api, letters]);

    // The ladders say which panels there are.
    useEffect(() => {
        if (!api) return;
        const wanted = ladders.map((ladder) => ladderPanel(ladder.id));
        // What comes or goes takes its room from the ladders alone.
        const cards = api.getPanel('cards')?.api;
        const width = cards?.width ?? 0;
        const before = api.panels.filter((panel) => panel.id.startsWith('ladder-')).map((panel) => panel.id);
        for (const id of before) if (!wanted.includes(id)) api.getPanel(id)?.api.close();
        for (const ladder of ladders) {
            const standing = wanted.filter((id) => api.getPanel(id));
            if (!api.getPanel(ladderPanel(ladder.id))) addLadderPanel(api, ladder.id, standing.at(-1) ?? null);
        }
        if (before.join() !== wanted.join()) {
            const standing = wanted.map((id) => api.getPanel(id)?.api).filter((panel) => panel?.location.type === 'grid');
            shareWidth(standing, (cards?.width ?? 0) - width);
        }
        if (width > 0 && cards?.width !== width) cards?.setSize({ width });
        showHeads(api, arranging);
        fitLadders(api);
    }, [api, ladders, arranging]);

    // Whichever is brought in front, by press or by key, is in sight.
    const front = useLadders((state) => state.front);
    // biome-ignore lint/correctness/useExhaustiveDependencies: another front wants another place
    useEffect(() => {
        if (api) fitLadders(api);
    }, [api, front]);

    const ready = ({ api: made }: DockviewReadyEvent) => {
        openFirst(made);
        lookAtLists(made);
        let timer = 0;
        made.onDidLayoutChange(() => {
            showHeads(made, useDock.getState().arranging);
            lookAtLists(made);
            fitLadders(made);
            window.clearTimeout(timer);
            timer = window.setTimeout(() => {
                keepArrangement();
                useDock.setState(({ changes }) => ({ changes: changes + 1 }));
            }, 200);
        });
        made.onDidRemovePanel((panel) => {
            const ladder = useLadders.getState().list.find((one) => ladderPanel(one.id) === panel.id);
            // A panel that is only moved comes back at once.
            if (ladder) window.setTimeout(() => made.getPanel(panel.id) ?? closeLadder(ladder.id), 0);
        });
        made.onDidAddGroup((group) =>
            group.api.onDidLocationChange(({ location }) => location.type === 'popout' && joinWindow(group.api.getWindow())),
        );
        useDock.setState({ api: made });
    };
    useEffect(() => () => useDock.setState({ api: null }), []);
    useEffect(() => (api && place.current ? keepAbove(place.current, api) : undefined), [api]);

    return (
        <SharedContext value={shared}>
            <div ref={place} className="isolate row-start-2 h-full min-h-0 overflow-hidden" data-part="dock-place">
                <DockviewReact
                    theme={{ name: 'lotrik', className: 'dockview-theme-lotrik' }}
                    components={components}
                    defaultTabComponent={Tab}
                    rightHeaderActionsComponent={HeaderTools}
                    disableFloatingGroups
                    disableDnd
                    onReady={ready}
                />
            </div>
        </SharedContext>
    );
});
