/** The day it is, as ISO 8601. Days begin in UTC until a market's time zone is known here. */
export const todayText = () => new Date().toISOString().slice(0, 10);
