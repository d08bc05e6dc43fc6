package yoru.cli;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;

/**
 * Tells which facts must be looked at together: those of one person, of people who were merged, of one order that
 * several people have to do with, and those that were told under one id.
 *
 * <p>Keys are kept as 64-bit hashes only. Two keys with one hash are taken for the same, which puts more together than
 * need be and changes no result. About 30 bytes a key.
 */
final class Groups {

    private long[] hashes = new long[1 << 12];
    private int[] nodes = new int[1 << 12];
    private int[] parents = new int[1 << 11];
    private int count;

    /** @return a number for {@link #group} */
    int add(Fact fact) {
        int subject = node('p', fact.subject());
        join(subject, node('i', fact.id().source() + '\0' + fact.id().id()));
        fact.happening().thing().ifPresent(thing -> join(subject, node('t', thing)));
        if (fact.happening() instanceof Happening.PersonMerged it) {
            join(subject, node('p', it.into()));
        }
        return subject;
    }

    /** The same for all that belong together, once all facts were added. */
    int group(int node) {
        int at = node;
        while (parents[at] != at) {
            parents[at] = parents[parents[at]];
            at = parents[at];
        }
        return at;
    }

    private void join(int one, int other) {
        int a = group(one);
        int b = group(other);
        parents[Math.max(a, b)] = Math.min(a, b);
    }

    private int node(char kind, String key) {
        if (count * 2 >= hashes.length) {
            grow();
        }
        long hash = hash(kind, key);
        int at = slot(hashes, hash);
        if (hashes[at] == 0) {
            hashes[at] = hash;
            nodes[at] = count;
            if (count == parents.length) {
                parents = Arrays.copyOf(parents, count * 2);
            }
            parents[count] = count;
            count++;
        }
        return nodes[at];
    }

    private void grow() {
        var oldHashes = hashes;
        var oldNodes = nodes;
        hashes = new long[oldHashes.length * 2];
        nodes = new int[oldHashes.length * 2];
        for (int i = 0; i < oldHashes.length; i++) {
            if (oldHashes[i] != 0) {
                int at = slot(hashes, oldHashes[i]);
                hashes[at] = oldHashes[i];
                nodes[at] = oldNodes[i];
            }
        }
    }

    private static int slot(long[] table, long hash) {
        int at = (int) (hash >>> 20) & (table.length - 1);
        while (table[at] != 0 && table[at] != hash) {
            at = (at + 1) & (table.length - 1);
        }
        return at;
    }

    /** FNV-1a, then mixed as SplitMix64 does; never 0, which marks a free place. */
    private static long hash(char kind, String key) {
        long hash = 0xcbf29ce484222325L ^ kind;
        for (byte b : key.getBytes(StandardCharsets.UTF_8)) {
            hash = (hash ^ (b & 0xff)) * 0x100000001b3L;
        }
        hash = (hash ^ (hash >>> 30)) * 0xbf58476d1ce4e5b9L;
        hash = (hash ^ (hash >>> 27)) * 0x94d049bb133111ebL;
        hash ^= hash >>> 31;
        return hash == 0 ? 1 : hash;
    }
}
