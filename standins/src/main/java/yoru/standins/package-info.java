/** A practice shop and a practice classroom. Yoru meets them over HTTP only, as it would any outside system. */
@org.jspecify.annotations.NullMarked
package yoru.standins;
