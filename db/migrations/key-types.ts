/**
 * Column types of keys. Plain bytes: under the text columns' collation, each step down an index would compare by
 * language rules, which measured several times slower, and keys would take four times the room.
 */
export const UUID = "CHAR(36) CHARACTER SET ascii COLLATE ascii_bin";
export const HASH = "CHAR(64) CHARACTER SET ascii COLLATE ascii_bin";
