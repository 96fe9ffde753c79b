/** For `onMouseDown` of a button beside the ladder: it takes no focus from the pointer. */
export const keepFocus = (event: { preventDefault: () => void }) => event.preventDefault();
