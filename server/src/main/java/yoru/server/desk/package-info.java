/**
 * What somebody at the desk does about people and orders: the consequence first, then the act, once.
 */
@NullMarked
package yoru.server.desk;

import org.jspecify.annotations.NullMarked;
