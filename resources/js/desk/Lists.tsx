import { Tabs } from 'radix-ui';
import { useState } from 'react';
import type { Order } from '@/api/client';
import { nextTheme, useTheme } from '@/shell/theme';
import { useDesk } from '@/stream/store';
import { useChoices } from './choices';
import { writePrice } from './prices';

const clock = (time: string): string => time.slice(11, 23);
const kindOf = (order: Order): string => `${order.side === 'buy' ? 'Buy' : 'Sell'} ${order.kind}`;

export function Lists({ onCancel }: { onCancel: (id: number) => void }) {
    const orders = useDesk((desk) => desk.orders);
    const fills = useDesk((desk) => desk.fills);
    const notices = useDesk((desk) => desk.notices);
    const contracts = useChoices((choices) => choices.contracts);
    const theme = useTheme((state) => state.theme);
    const [folded, setFolded] = useState(false);
    const [tab, setTab] = useState('working');
    const shown = (code: string, tick: number): string => {
        const contract = contracts.find((listed) => listed.code === code);
        return contract ? writePrice(contract, tick) : '—';
    };
    const working = [...orders.values()].sort((a, b) => b.id - a.id);
    return (
        <Tabs.Root className={folded ? 'lists folded' : 'lists'} value={tab} onValueChange={setTab}>
            <div className="lists-head">
                <Tabs.List aria-label="Lists">
                    <Tabs.Trigger value="working">Working {working.length}</Tabs.Trigger>
                    <Tabs.Trigger value="fills">Fills {fills.length}</Tabs.Trigger>
                    <Tabs.Trigger value="said">What happened</Tabs.Trigger>
                </Tabs.List>
                <span className="lists-tools">
                    <button type="button" className="order-button small" data-action="fold" aria-expanded={!folded} onClick={() => setFolded(!folded)}>
                        {folded ? 'unfold' : 'fold'}
                    </button>
                    <button type="button" className="order-button small" data-action="theme" onClick={nextTheme}>
                        Look: {theme}
                    </button>
                </span>
            </div>
            <Tabs.Content value="working" className="scroll">
                <table>
                    <thead>
                        <tr>
                            <th>Time</th>
                            <th>Contract</th>
                            <th>Order</th>
                            <th className="number">Lots</th>
                            <th className="number">Price</th>
                            <th className="number">Ahead</th>
                            <th className="wide">Why</th>
                            <th>State</th>
                            <th>
                                <span className="sr-only">Cancel</span>
                            </th>
                        </tr>
                    </thead>
                    <tbody>
                        {working.map((order) => (
                            <tr key={order.id} data-row={order.id}>
                                <td>{clock(order.created_at)}</td>
                                <td>{order.contract}</td>
                                <td>{kindOf(order)}</td>
                                <td className="number">{order.leaves}</td>
                                <td className="number">{order.level === null ? '—' : shown(order.contract, order.level)}</td>
                                <td className="number">{order.ahead ?? '—'}</td>
                                <td>{order.why}</td>
                                <td>{order.state}</td>
                                <td>
                                    <button type="button" onClick={() => onCancel(order.id)} aria-label={`Cancel order ${order.id}`}>
                                        cancel
                                    </button>
                                </td>
                            </tr>
                        ))}
                    </tbody>
                </table>
                {working.length === 0 && <p className="empty">Nothing is working.</p>}
            </Tabs.Content>
            <Tabs.Content value="fills" className="scroll">
                <table>
                    <thead>
                        <tr>
                            <th>Time</th>
                            <th>Contract</th>
                            <th>Side</th>
                            <th className="number">Lots</th>
                            <th className="number">Price</th>
                            <th className="number">Slippage</th>
                            <th className="number">Fee</th>
                            <th className="wide">For</th>
                        </tr>
                    </thead>
                    <tbody>
                        {fills.map((fill) => (
                            <tr key={fill.id}>
                                <td>{clock(fill.time)}</td>
                                <td>{fill.contract}</td>
                                <td>{fill.side === 'buy' ? 'Bought' : 'Sold'}</td>
                                <td className="number">{fill.quantity}</td>
                                <td className="number">{shown(fill.contract, fill.level)}</td>
                                <td className="number">{fill.slippage_ticks === 0 ? '0' : `${fill.slippage_ticks} · ${fill.slippage_money}`}</td>
                                <td className="number">{fill.fee}</td>
                                <td>{fill.role}</td>
                            </tr>
                        ))}
                    </tbody>
                </table>
                {fills.length === 0 && <p className="empty">Nothing has filled yet.</p>}
            </Tabs.Content>
            <Tabs.Content value="said" className="scroll">
                <ol className="said">
                    {notices.map((notice) => (
                        <li key={notice.sequence}>
                            <time>{clock(notice.time)}</time> {notice.contract} {notice.words}
                        </li>
                    ))}
                </ol>
                {notices.length === 0 && <p className="empty">Fills, stop moves and refusals are told here.</p>}
            </Tabs.Content>
        </Tabs.Root>
    );
}
