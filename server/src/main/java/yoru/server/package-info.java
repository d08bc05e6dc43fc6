/** Yoru's server: one package for each capability. */
@org.jspecify.annotations.NullMarked
package yoru.server;
