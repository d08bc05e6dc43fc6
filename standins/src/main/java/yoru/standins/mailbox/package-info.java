/** The practice mailbox. */
@org.jspecify.annotations.NullMarked
package yoru.standins.mailbox;
