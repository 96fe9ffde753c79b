import { say } from '@/stream/store';
import { Table, type TableProps } from '@/ui/Table';
import { WORDS } from './words';

const dropped = () => say(WORDS.rowsJustMoved);

/** A list of the desk: what is pressed just after its rows have changed places is not done, and said. */
export function LiveTable<Row>(props: Omit<TableProps<Row>, 'dropped'>) {
    return <Table {...props} dropped={dropped} />;
}
