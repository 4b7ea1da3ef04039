/** What people are asked for consent to, and how they may be reached about it. */
export const consentTopics = ['newsletter', 'invitations', 'appeals'] as const;
export type ConsentTopic = (typeof consentTopics)[number];
export const consentChannels = ['email', 'text message'] as const;
export type ConsentChannel = (typeof consentChannels)[number];
