import { Component, type ReactNode } from 'react';
import { Button } from './Button';
import { WORDS } from './words';

interface Props {
    children: ReactNode;
    /** the panel that it stands around; the others go on where it fails */
    panel?: string;
}

/**
 * Where drawing fails, the page says so and what to do, and does not go blank. The keys that flatten and cancel stand
 * above it and go on.
 */
export class Boundary extends Component<Props, { fault: string }> {
    override state = { fault: '' };

    static getDerivedStateFromError(error: Error) {
        return { fault: error.message || 'without a word' };
    }

    override render() {
        if (this.state.fault === '') return this.props.children;
        const { panel } = this.props;
        if (panel !== undefined) {
            return (
                <div className="p-16 text-soft" role="alert" data-field="broken-panel">
                    <p>
                        <b>{WORDS.panelFailed(panel)}</b> ({this.state.fault}). All else goes on.
                    </p>
                    <Button onClick={() => this.setState({ fault: '' })}>Show it again</Button>
                </div>
            );
        }
        return (
            <div className="p-16 text-soft" role="alert" data-field="broken">
                <p>
                    <b>This page has failed</b> ({this.state.fault}
                    {WORDS.pageFailed}
                </p>
                <Button tone="strong" onClick={() => location.reload()}>
                    Open the desk again
                </Button>
            </div>
        );
    }
}
