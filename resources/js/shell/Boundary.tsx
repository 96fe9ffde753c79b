import { Component, type ReactNode } from 'react';

/** Where drawing the desk fails, the page says so and what to do, and does not go blank. */
export class Boundary extends Component<{ children: ReactNode }, { fault: string }> {
    override state = { fault: '' };

    static getDerivedStateFromError(error: Error) {
        return { fault: error.message };
    }

    override render() {
        if (this.state.fault === '') return this.props.children;
        return (
            <div className="loading" role="alert" data-field="broken">
                <p>
                    <b>This page has failed</b> ({this.state.fault}). Your orders and stops rest in the engine, not in this page.
                </p>
                <button type="button" className="order-button strong" onClick={() => location.reload()}>
                    Open the desk again
                </button>
            </div>
        );
    }
}
