import type { IDockviewPanelProps } from 'dockview-react';
import { type FunctionComponent, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';

type Panel = FunctionComponent<IDockviewPanelProps>;

/** A place of its own in the page, so that what is listened to there was begun in the window that it stands in. */
function Hosted({ Content, ...props }: IDockviewPanelProps & { Content: Panel }) {
    const place = useRef<HTMLDivElement>(null);
    const [host] = useState(() => document.createElement('div'));
    useLayoutEffect(() => {
        host.className = 'contents';
        place.current?.append(host);
        return () => host.remove();
    }, [host]);
    return (
        <div className="contents" ref={place}>
            {createPortal(<Content {...props} />, host)}
        </div>
    );
}

/**
 * A panel that is made anew whenever it comes to another window. A browser takes everything that is listened to, and
 * the drawings, from the nodes of a window that closes, also from those that are then carried back to the desk.
 */
export const inItsWindow = (Content: Panel): Panel =>
    function InItsWindow(props) {
        const [own, setOwn] = useState(() => props.api.getWindow());
        useEffect(() => {
            const listening = props.api.onDidLocationChange(() => setOwn(props.api.getWindow()));
            return () => listening.dispose();
        }, [props.api]);
        return <Hosted key={own === window ? 'desk' : 'own'} Content={Content} {...props} />;
    };
