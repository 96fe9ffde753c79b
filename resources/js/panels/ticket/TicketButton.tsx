import { useKeyOf } from '@/model/keymap';
import { useTicket } from '@/model/ticketState';
import { OrderButton } from '@/ui/OrderButton';

/** Opens the ticket by pointer. */
export function TicketButton() {
    return (
        <OrderButton
            tone="small"
            label="Ticket"
            keyName={useKeyOf('ticket')}
            act={() => useTicket.setState(({ open }) => ({ open: !open }))}
            name="ticket"
        />
    );
}
