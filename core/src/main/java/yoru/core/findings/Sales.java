package yoru.core.findings;

/**
 * How often a product was sold.
 *
 * @param buyers people
 * @param thing whether it is something to post, which need open nothing
 */
public record Sales(String product, int buyers, boolean thing) {}
