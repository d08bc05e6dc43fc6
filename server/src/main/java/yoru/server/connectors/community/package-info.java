@NullMarked
package yoru.server.connectors.community;

import org.jspecify.annotations.NullMarked;
