package yoru.standins.practice;

import java.net.URI;

/** Where a practice system reports to, and what signs its reports. */
public record Reports(URI reportTo, String secret) {}
