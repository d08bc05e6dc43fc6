/** What the practice systems have in common: how they misbehave when told to, and how they report. */
@org.jspecify.annotations.NullMarked
package yoru.standins.practice;
