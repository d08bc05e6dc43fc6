@NullMarked
package yoru.server.connectors.mailbox;

import org.jspecify.annotations.NullMarked;
