/** The practice shop. */
@org.jspecify.annotations.NullMarked
package yoru.standins.shop;
