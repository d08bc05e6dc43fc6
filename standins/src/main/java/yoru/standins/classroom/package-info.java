/** The practice classroom. */
@org.jspecify.annotations.NullMarked
package yoru.standins.classroom;
