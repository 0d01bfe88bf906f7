/** A line of less weight in an email. */
export const quietStyle = 'margin:0 0 12px;color:#5a6870;font-size:14px';
