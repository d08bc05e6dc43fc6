/**
 * One folder for each kind of system: translation between Yoru's words and those of an open protocol, and no decisions.
 */
@NullMarked
package yoru.server.connectors;

import org.jspecify.annotations.NullMarked;
