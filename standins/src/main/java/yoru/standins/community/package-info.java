/** The practice community. */
@org.jspecify.annotations.NullMarked
package yoru.standins.community;
