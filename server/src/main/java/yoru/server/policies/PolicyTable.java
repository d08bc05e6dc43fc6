package yoru.server.policies;

import org.springframework.data.jpa.repository.JpaRepository;

interface PolicyTable extends JpaRepository<Policy, Integer> {}
