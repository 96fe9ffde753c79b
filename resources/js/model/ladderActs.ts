/** What the ladder in front does for keys. */
export interface LadderActs {
    recentre: () => void;
    /** presses on the rung that is pointed at */
    place: () => void;
    /** a stop or a target for the position at the rung that is pointed at */
    exitHere: () => void;
    /** makes a level of the price that is pointed at */
    markHere: () => void;
}
