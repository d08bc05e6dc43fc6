/**
 * What follows from openings and endings besides the openings themselves: a letter to the person, events to listeners.
 */
@NullMarked
package yoru.server.announcements;

import org.jspecify.annotations.NullMarked;
