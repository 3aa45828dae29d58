/** Values as a channel is sent them. */
export interface Picture {
  address: string;
  /** Pixels; absent until measured. */
  width?: number;
  height?: number;
}

/** What is sent for one attribute: text, a number (money in minor units), or pictures. */
export type ChannelValue = string | number | Picture[];
/** Values by channel attribute key. */
export type Item = Record<string, ChannelValue | undefined>;
