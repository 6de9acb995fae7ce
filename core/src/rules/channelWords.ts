/** A UV channel for people who count from 0 and people who count from 1: UV0 (1st). */
export const channelWords = (channel: number): string =>
  `UV${channel} (${channel + 1}${['st', 'nd', 'rd'][channel] ?? 'th'})`
