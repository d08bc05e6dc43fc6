package yoru.server.findings;

import org.springframework.data.jpa.repository.JpaRepository;

interface AcceptedFindings extends JpaRepository<AcceptedFinding, AcceptedFinding.Id> {}
