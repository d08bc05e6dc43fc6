@NullMarked
package yoru.server.connectors.listener;

import org.jspecify.annotations.NullMarked;
